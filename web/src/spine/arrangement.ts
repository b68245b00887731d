import { type AnswerOf, type calls } from '@ivory/contract';
import { type Category, fold } from '@ivory/core';

export type HandLine = AnswerOf<typeof calls.getHandLines>['lines'][number];

/** A category of the spine as the proof in hand has it. */
export interface Branch {
  readonly id: string;
  readonly name: string;
  /** null at the top. */
  readonly parent: string | null;
  readonly place: number;
  readonly inMenu: boolean;
  /** What is proposed of it. */
  readonly proposed: 'new' | 'changed' | 'goes' | undefined;
}

/** The categories as the proof in hand arranges them: what is proposed stands in its place before it lands. */
export class Arrangement {
  private readonly byId: ReadonlyMap<string, Branch>;
  private readonly below = new Map<string | null, Branch[]>();

  constructor(categories: readonly Category[], lines: readonly HandLine[]) {
    this.byId = new Map(arranged(categories, lines).map((branch) => [branch.id, branch]));
    const sorted = [...this.byId.values()].sort((a, b) => a.place - b.place || Number(a.id) - Number(b.id));
    for (const branch of sorted) {
      const parent = branch.parent !== null && this.byId.has(branch.parent) ? branch.parent : null;
      const siblings = this.below.get(parent);
      if (siblings) siblings.push(branch);
      else this.below.set(parent, [branch]);
    }
  }

  get roots(): readonly Branch[] {
    return this.below.get(null) ?? [];
  }

  get(id: string): Branch | undefined {
    return this.byId.get(id);
  }

  childrenOf(id: string | null): readonly Branch[] {
    return this.below.get(id) ?? [];
  }

  /** How many lie below a category, however deep. */
  countBelow(id: string): number {
    return this.childrenOf(id).reduce((sum, child) => sum + 1 + this.countBelow(child.id), 0);
  }

  /** A category and all that lie below it. */
  branch(id: string): string[] {
    return [id, ...this.childrenOf(id).flatMap((child) => this.branch(child.id))];
  }

  /** Those of some categories that lie below no other of them. */
  topmost(ids: readonly string[]): string[] {
    const among = new Set(ids);
    return ids.filter(
      (id) =>
        !this.above(id)
          .slice(1)
          .some((one) => among.has(one)),
    );
  }

  /** A category and those above it, from itself up. */
  above(id: string): string[] {
    const ids: string[] = [];
    for (let at: string | null | undefined = id; at; at = this.byId.get(at)?.parent) ids.push(at);
    return ids;
  }

  /** The categories whose names have a text in them, with all that leads to each; undefined for a blank text. */
  finding(text: string): Finding | undefined {
    const wanted = fold(text);
    if (wanted === '') return undefined;
    const found = new Set<string>();
    for (const { id, name } of this.byId.values()) if (fold(name).includes(wanted)) found.add(id);
    const shown = new Set([...found].flatMap((id) => this.above(id)));
    const open = new Set([...found].flatMap((id) => this.above(id).slice(1)));
    return { found, shown, open };
  }
}

export interface Finding {
  readonly found: ReadonlySet<string>;
  readonly shown: ReadonlySet<string>;
  /** Those below which something was found. */
  readonly open: ReadonlySet<string>;
}

function arranged(categories: readonly Category[], lines: readonly HandLine[]): Branch[] {
  const proposed = new Map<string, Map<string, string | null>>();
  for (const { id, field, after } of lines) {
    const fields = proposed.get(id) ?? new Map<string, string | null>();
    proposed.set(id, fields.set(field, after));
  }
  const standing = categories.map((category): Branch => {
    const { id, name, parent, place, inMenu = true } = category;
    const to = proposed.get(id);
    return {
      id,
      name: to?.get('name') ?? name,
      parent: to?.has('parent') ? to.get('parent')! : parent,
      place: Number(to?.get('place') ?? place),
      inMenu: to?.has('inMenu') ? to.get('inMenu') === 'yes' : inMenu,
      proposed: to === undefined ? undefined : to.get('exists') === null ? 'goes' : 'changed',
    };
  });
  const known = new Set(categories.map(({ id }) => id));
  const made = [...proposed].filter(([id, fields]) => !known.has(id) && fields.get('exists') != null);
  return [
    ...standing,
    ...made.map(([id, fields]): Branch => ({
      id,
      name: fields.get('name') ?? '',
      parent: fields.get('exists') || null,
      place: Number(fields.get('place') ?? LAST),
      inMenu: fields.get('inMenu') !== 'no',
      proposed: 'new',
    })),
  ];
}

const LAST = 100_000;
