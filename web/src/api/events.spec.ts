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
    await settled();
    window.EventSource = real;
  });

  const settled = () => new Promise((go) => setTimeout(go, 30));
  /** Each listener of one page stands for a tab: locks and channels are of the whole browser. */
  async function tab(): Promise<Heard[]> {
    const heard: Heard[] = [];
    tabs.push(serverEvents().subscribe((one) => heard.push(one)));
    await settled();
    return heard;
  }
  const speak = async (source: FakeSource) => {
    source.onmessage!({ data: JSON.stringify(work) });
    await settled();
  };

  it('is heard by every tab over the stream of one', async () => {
    const [first, second] = [await tab(), await tab()];
    expect(FakeSource.opened.map(({ address }) => address)).toEqual(['/api/events']);
    FakeSource.opened[0]!.onopen!();
    await speak(FakeSource.opened[0]!);
    expect([first, second]).toEqual([[work], [work]]);
  });

  it('is heard by another tab when the one that listened is gone, and what was missed is read again', async () => {
    await tab();
    const [second, third] = [await tab(), await tab()];
    tabs[0]!.unsubscribe();
    await settled();
    expect(FakeSource.opened.map(({ readyState }) => readyState)).toEqual([FakeSource.CLOSED, 1]);
    FakeSource.opened[1]!.onopen!();
    await speak(FakeSource.opened[1]!);
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
