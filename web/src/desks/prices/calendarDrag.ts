import { signal } from '@angular/core';
import { type CalendarScale, type Days, type Edge, movedDays } from './calendarScale.ts';

/** Something on the calendar whose days can be moved: an edge by the pointer, both or the last by keys. */
export interface Movable {
  readonly key: string;
  readonly days: Days;
  /** Which of its edges may be moved. */
  readonly edges: readonly Edge[];
  /** Proposes other days; undefined where they would end before they begin. */
  readonly propose: (days: Days | undefined) => void;
}

/** Moves what is on the calendar: an edge follows the pointer until that is let go, and its days are proposed then. */
export class CalendarDrag {
  /** The dragged bar, with the days it would get. */
  readonly held = signal<{ readonly key: string; readonly days: Days } | undefined>(undefined);

  /** The days of something as it is drawn. */
  daysOf({ key, days }: Pick<Movable, 'key' | 'days'>): Days {
    const held = this.held();
    return held?.key === key ? held.days : days;
  }

  letGo(): void {
    this.held.set(undefined);
  }

  take(event: PointerEvent, of: Movable, edge: Edge, scale: CalendarScale): void {
    event.preventDefault();
    event.stopPropagation();
    const handle = event.target as HTMLElement;
    handle.setPointerCapture(event.pointerId);
    const moved = ({ clientX }: PointerEvent): void => {
      const days = movedDays(of.days, scale.daysAcross(clientX - event.clientX), edge);
      if (days) this.held.set({ key: of.key, days });
    };
    const done = (): void => {
      handle.removeEventListener('pointermove', moved);
      const held = this.held();
      if (held) of.propose(held.days);
    };
    handle.addEventListener('pointermove', moved);
    handle.addEventListener('pointerup', done, { once: true });
  }

  key(event: KeyboardEvent, of: Movable): void {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined || event.ctrlKey || event.altKey || event.metaKey) return;
    const [only] = of.edges.length === 1 ? of.edges : [];
    const edge = event.shiftKey ? 'until' : (only ?? 'both');
    if (edge !== 'both' && !of.edges.includes(edge)) return;
    event.preventDefault();
    of.propose(movedDays(of.days, by, edge));
  }
}
