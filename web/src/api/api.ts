import { HttpClient, HttpErrorResponse, HttpEventType } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  type Call,
  type Import,
  type KeptFile,
  type KeptPicture,
  GROUP_HEADER,
  MOMENT_HEADER,
  pathOfCall,
  type ProblemDetails,
} from '@ivory/contract';
import { Store } from '@ngrx/store';
import { catchError, filter, map, type Observable, tap, throwError } from 'rxjs';
import { moment } from './moment.ts';
import { words } from '../words/en.ts';

/** What the server refused, as problem details; a server that does not answer is one too. */
export class ApiRefusal extends Error {
  constructor(readonly details: ProblemDetails) {
    super(details.title);
  }
}

/** A problem found by the browser, not by the server. */
export const problemHere = (title: string): ProblemDetails => ({ type: 'about:blank', title, status: 0 });

/** Names this tab to the server, whose events say which tab did what. */
export const TAB = Math.random().toString(36).slice(2);
const headers = { 'x-tab': TAB };

type QueryValues = Readonly<Record<string, string | number | boolean | undefined>>;

/** The server, by the calls of the contract: paths, bodies and answers have the types that the server itself is held to. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);
  private readonly at = inject(Store).selectSignal(moment.selectAt);
  private readonly group = inject(Store).selectSignal(moment.selectGroup);

  call<Params, Query, Body, Answer, Sent>(
    call: Call<Params, Query, Body, Answer, Sent>,
    input: { params?: Params; query?: QueryValues; body?: Sent } = {},
  ): Observable<Answer> {
    const query = Object.entries(input.query ?? {}).filter(
      (pair): pair is [string, string | number | boolean] => pair[1] !== undefined,
    );
    // What changes something always has a body: the server takes JSON only, which pages of other sites cannot send unasked.
    const body = call.method === 'GET' ? undefined : (input.body ?? {});
    return this.http
      .request<Answer>(call.method, pathOfCall(call, input.params), {
        body,
        params: Object.fromEntries(query),
        headers: this.headers(),
      })
      .pipe(catchError(refused));
  }

  /** What is read is read as it will be at the moment, and for the customer group, that are looked at. */
  private headers(): Record<string, string> {
    const [at, group] = [this.at(), this.group()];
    return {
      ...headers,
      ...(at !== null && { [MOMENT_HEADER]: String(at) }),
      ...(group !== null && { [GROUP_HEADER]: group }),
    };
  }

  upload(file: File): Observable<Import> {
    const headers = { 'x-file-name': encodeURIComponent(file.name), 'content-type': 'application/octet-stream' };
    return this.http.post<Import>('/api/imports', file, { headers }).pipe(catchError(refused));
  }

  /** Hands a picture in; `progress` is told the share of it that is on its way. */
  uploadPicture(file: File, progress: (share: number) => void): Observable<KeptPicture> {
    return this.sendBytes<KeptPicture>('/api/pictures', file, progress);
  }

  /** Sends a file that is to hang on goods. */
  uploadFile(file: File, progress: (share: number) => void): Observable<KeptFile> {
    return this.sendBytes<KeptFile>('/api/files', file, progress);
  }

  private sendBytes<Kept>(path: string, file: File, progress: (share: number) => void): Observable<Kept> {
    const headers = { 'x-file-name': encodeURIComponent(file.name), 'content-type': 'application/octet-stream' };
    return this.http.post<Kept>(path, file, { headers, observe: 'events', reportProgress: true }).pipe(
      tap((event) => {
        if (event.type === HttpEventType.UploadProgress) progress(event.loaded / (event.total ?? file.size));
      }),
      filter((event) => event.type === HttpEventType.Response),
      map((event) => event.body!),
      catchError(refused),
    );
  }
}

function refused(error: unknown): Observable<never> {
  const body: unknown = error instanceof HttpErrorResponse ? error.error : undefined;
  const isProblem = typeof body === 'object' && body !== null && 'title' in body;
  const details: ProblemDetails = isProblem ? (body as ProblemDetails) : problemHere(words.problem.offline);
  return throwError(() => new ApiRefusal(details));
}

/** The details of an error that an effect caught. */
export function detailsOf(error: unknown): ProblemDetails {
  if (error instanceof ApiRefusal) return error.details;
  throw error;
}
