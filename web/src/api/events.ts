import { type ServerEvent } from '@ivory/contract';
import { Observable } from 'rxjs';

/**
 * What the server tells; that it does not answer; or that it does, and may have told something that was not heard: then all
 * is to be read once more.
 */
export type Heard = ServerEvent | { readonly kind: 'lost' | 'missed' };

const NAME = 'ivory-events';
/** A stream that is refused is not opened again by the browser itself. */
const TRY_AGAIN = 3_000;

/**
 * What the server tells all browsers, for as long as somebody listens. One tab listens and tells the others: a browser has
 * six connections to a server, and six tabs that hold one each leave none to load anything. When that tab goes, another
 * takes over.
 */
export function serverEvents(): Observable<Heard> {
  return new Observable((observer) => {
    const tabs = new BroadcastChannel(NAME);
    const gone = new AbortController();
    tabs.onmessage = ({ data }: MessageEvent<Heard>) => observer.next(data);
    const tell = (heard: Heard) => {
      observer.next(heard);
      tabs.postMessage(heard);
    };
    oneAtATime(gone.signal, (waited) => listen(gone.signal, tell, waited)).catch((error: unknown) => {
      if (!gone.signal.aborted) observer.error(error);
    });
    return () => {
      gone.abort();
      tabs.close();
    };
  });
}

/** Has one tab at a time do something, until it is gone; `waited` when another did it before. */
async function oneAtATime(gone: AbortSignal, work: (waited: boolean) => Promise<void>): Promise<void> {
  const isFirst = await navigator.locks.request(NAME, { ifAvailable: true }, async (lock) => {
    if (lock) await work(false);
    return lock !== null;
  });
  if (!isFirst) await navigator.locks.request(NAME, { signal: gone }, () => work(true));
}

/** Holds the stream until this tab is gone; when another held it before, or it was cut, something may have been missed. */
function listen(gone: AbortSignal, tell: (heard: Heard) => void, waited: boolean): Promise<void> {
  return new Promise((over) => {
    let missed = waited;
    let lost = false;
    let source: EventSource;
    const open = () => {
      if (gone.aborted) return over();
      source = new EventSource('/api/events');
      source.onopen = () => {
        if (missed || lost) tell({ kind: 'missed' });
        missed = true;
        lost = false;
      };
      source.onmessage = ({ data }: MessageEvent<string>) => tell(JSON.parse(data) as ServerEvent);
      source.onerror = () => {
        if (!lost) tell({ kind: 'lost' });
        lost = true;
        if (source.readyState === EventSource.CLOSED) setTimeout(open, TRY_AGAIN);
      };
    };
    gone.addEventListener('abort', () => {
      source.close();
      over();
    });
    open();
  });
}
