import { KeyQueue } from './keyQueue.ts';

describe('keys while a cell is being left', () => {
  let pressed: string[];
  const hear = (event: KeyboardEvent) => pressed.push(event.shiftKey ? `Shift+${event.key}` : event.key);
  const key = (name: string, more: KeyboardEventInit = {}) => new KeyboardEvent('keydown', { key: name, ...more });

  beforeEach(() => {
    pressed = [];
    document.addEventListener('keydown', hear);
  });
  afterEach(() => document.removeEventListener('keydown', hear));

  it('go through when nothing moves', () => {
    expect(new KeyQueue().holds(key('a'))).toBeFalse();
  });

  it('wait until the next cell is there, and are pressed then in their order', async () => {
    const queue = new KeyQueue();
    let arrived: () => void = () => undefined;
    const moved = queue.during(() => new Promise((go) => (arrived = go)));
    for (const event of [key('1'), key('2'), key('Tab', { shiftKey: true })]) expect(queue.holds(event)).toBeTrue();
    expect(pressed).toEqual([]);
    arrived();
    await moved;
    expect(pressed).toEqual(['1', '2', 'Shift+Tab']);
  });

  it('that are not for a cell do not wait', () => {
    const queue = new KeyQueue();
    void queue.during(() => new Promise(() => undefined));
    expect(queue.holds(key('z', { ctrlKey: true }))).toBeFalse();
    expect(queue.holds(key('Shift', { shiftKey: true }))).toBeFalse();
  });

  it('behind one that moves on once more wait for that too', async () => {
    const queue = new KeyQueue();
    let second: Promise<void> | undefined;
    let arrived: () => void = () => undefined;
    const goOn = (event: KeyboardEvent) => {
      if (event.key === 'Enter') second = queue.during(() => new Promise((go) => (arrived = go)));
    };
    document.addEventListener('keydown', goOn);
    const first = queue.during(() => Promise.resolve());
    for (const name of ['1', 'Enter', '2']) queue.holds(key(name));
    await first;
    expect(pressed).toEqual(['1', 'Enter']);
    arrived();
    await second;
    document.removeEventListener('keydown', goOn);
    expect(pressed).toEqual(['1', 'Enter', '2']);
  });

  it('are typed into the field that opens, in their order', async () => {
    const field = document.createElement('input');
    field.value = 'Moss Lane';
    const heard: string[] = [];
    field.addEventListener('keydown', ({ key }) => heard.push(key));
    const queue = new KeyQueue(() => (field.isConnected ? field : undefined));
    let open: () => void = () => undefined;
    const opening = queue.whileOpening(() => new Promise<void>((opened) => (open = opened)));
    const keys = [
      key('a', { ctrlKey: true }),
      ...[...'Fern Lanex'].map((letter) => key(letter)),
      key('Backspace'),
      key('Enter'),
    ];
    for (const pressed of keys) expect(queue.holds(pressed)).toBeTrue();
    expect(queue.holds(key('c', { ctrlKey: true })))
      .withContext('not for the field')
      .toBeFalse();
    document.body.append(field);
    field.focus();
    open();
    await opening;
    expect(field.value).toBe('Fern Lane');
    expect(heard).toEqual(['Enter']);
    expect(queue.holds(key('x'))).toBeFalse();
    field.remove();
  });
});
