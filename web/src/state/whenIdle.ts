import { Observable } from 'rxjs';

/** Longest that anything waits for the browser to have time, in milliseconds. */
const PATIENCE = 1_000;

/** Emits once when the browser has time: for what is to come after the rows that one waits for. */
export const whenIdle = (): Observable<void> =>
  new Observable((subscriber) => {
    const go = () => {
      subscriber.next();
      subscriber.complete();
    };
    // Not every browser tells when it is idle.
    if (typeof requestIdleCallback === 'undefined') {
      const timer = setTimeout(go, PATIENCE / 4);
      return () => clearTimeout(timer);
    }
    const idle = requestIdleCallback(go, { timeout: PATIENCE });
    return () => cancelIdleCallback(idle);
  });
