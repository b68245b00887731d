import { Observable, Subject } from 'rxjs';
import { InTurn } from './inTurn.ts';

describe('calls in turn', () => {
  /** A call that is answered when the spec says so, and notes when it is made. */
  function callOf(name: string, made: string[]) {
    const answer = new Subject<string>();
    const call = new Observable<string>((subscriber) => {
      made.push(name);
      return answer.subscribe(subscriber);
    });
    const end = () => {
      answer.next(`${name} done`);
      answer.complete();
    };
    return { call, end, refuse: () => answer.error(new Error(`${name} refused`)) };
  }

  it('are made when those before them are answered, and each gets its own answer', () => {
    const turn = new InTurn();
    const made: string[] = [];
    const heard: string[] = [];
    const [first, second] = [callOf('first', made), callOf('second', made)];
    turn.run(first.call).subscribe((answer) => heard.push(answer));
    turn.run(second.call).subscribe((answer) => heard.push(answer));
    expect(made).toEqual(['first']);
    first.end();
    expect(made).toEqual(['first', 'second']);
    second.end();
    expect(heard).toEqual(['first done', 'second done']);
  });

  it('go on after one that was refused, which says so to whoever made it alone', () => {
    const turn = new InTurn();
    const heard: string[] = [];
    const [first, second] = [callOf('first', []), callOf('second', [])];
    turn.run(first.call).subscribe({ error: ({ message }: Error) => heard.push(message) });
    turn.run(second.call).subscribe((answer) => heard.push(answer));
    first.refuse();
    second.end();
    expect(heard).toEqual(['first refused', 'second done']);
  });
});
