import { type ServerEvent } from '@ivory/contract';
import { Observable } from 'rxjs';

/** What the server tells all browsers, for as long as somebody listens; the browser itself connects again when it is lost. */
export function serverEvents(): Observable<ServerEvent> {
  return new Observable((observer) => {
    const source = new EventSource('/api/events');
    source.onmessage = ({ data }: MessageEvent<string>) => {
      if (data !== '') observer.next(JSON.parse(data) as ServerEvent);
    };
    return () => source.close();
  });
}
