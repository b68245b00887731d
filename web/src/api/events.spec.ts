import { type Subscription } from 'rxjs';
import { type Heard, serverEvents } from './events.ts';

/** A stream of events that the specs open, speak through and cut. */
class FakeSource {
  static readonly CLOSED = 2;
  static opened: FakeSource[] = [];
  readyState = 1;
  onopen?: () => void;
  onmessage?: (message: { data: string }) => void;
  onerror?: () => void;

  constructor(readonly address: string) {
    FakeSource.opened.push(this);
  }

  close(): void {
    this.readyState = FakeSource.CLOSED;
  }
}

const work = { kind: 'landed', landing: '7' } as const;

describe('what the server tells', () => {
  const real = window.EventSource;
  let tabs: Subscription[];
  beforeEach(() => {
    tabs = [];
    FakeSource.opened = [];
    window.EventSource = FakeSource as never;
  });
  afterEach(async () => {
    tabs.forEach((tab) => tab.unsubscribe());
    await until(async () => (await inLine()) === 0);
    window.EventSource = real;
  });

  const until = async (come: () => boolean | Promise<boolean>) => {
    while (!(await come())) await new Promise((go) => setTimeout(go, 5));
  };
  /** How many listen or wait until they may. */
  const inLine = async () => {
    const { held, pending } = await navigator.locks.query();
    return [...held!, ...pending!].filter(({ name }) => name === 'ivory-events').length;
  };
  /** Each listener of one page stands for a tab: locks and channels are of the whole browser. */
  async function tab(): Promise<Heard[]> {
    const heard: Heard[] = [];
    tabs.push(serverEvents().subscribe((one) => heard.push(one)));
    await until(async () => (await inLine()) === tabs.length && FakeSource.opened.length > 0);
    return heard;
  }
  const speak = (source: FakeSource) => source.onmessage!({ data: JSON.stringify(work) });

  it('is heard by every tab over the stream of one', async () => {
    const [first, second] = [await tab(), await tab()];
    expect(FakeSource.opened.map(({ address }) => address)).toEqual(['/api/events']);
    FakeSource.opened[0]!.onopen!();
    speak(FakeSource.opened[0]!);
    await until(() => second.length === 1);
    expect([first, second]).toEqual([[work], [work]]);
  });

  it('is heard by another tab when the one that listened is gone, and what was missed is read again', async () => {
    await tab();
    const [second, third] = [await tab(), await tab()];
    tabs[0]!.unsubscribe();
    await until(() => FakeSource.opened.length === 2);
    expect(FakeSource.opened.map(({ readyState }) => readyState)).toEqual([FakeSource.CLOSED, 1]);
    FakeSource.opened[1]!.onopen!();
    speak(FakeSource.opened[1]!);
    await until(() => third.length === 2);
    expect([second, third]).toEqual([
      [{ kind: 'missed' }, work],
      [{ kind: 'missed' }, work],
    ]);
  });

  it('may have been missed while the stream was cut', async () => {
    const heard = await tab();
    FakeSource.opened[0]!.onopen!();
    expect(heard).toEqual([]);
    for (let tries = 0; tries < 3; tries++) FakeSource.opened[0]!.onerror!();
    FakeSource.opened[0]!.onopen!();
    expect(heard).toEqual([{ kind: 'lost' }, { kind: 'missed' }]);
  });

  it('is there again also when it was not there at the start', async () => {
    const heard = await tab();
    FakeSource.opened[0]!.onerror!();
    FakeSource.opened[0]!.onopen!();
    expect(heard).toEqual([{ kind: 'lost' }, { kind: 'missed' }]);
  });

  it('is listened for again after the stream was refused', async () => {
    await tab();
    jasmine.clock().install();
    try {
      FakeSource.opened[0]!.close();
      FakeSource.opened[0]!.onerror!();
      jasmine.clock().tick(3_000);
      expect(FakeSource.opened).toHaveSize(2);
    } finally {
      jasmine.clock().uninstall();
    }
  });
});
