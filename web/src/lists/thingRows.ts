import { type AnswerOf, type calls } from '@ivory/contract';
import { type Asking, type Field, type FieldKey, type KindKey, type ValueTypeKey } from '@ivory/core';
import { valueInHand } from '../sheet/rows/proposed.ts';
import { type CellAddress, type SheetRow, SheetRows } from '../sheet/rows/sheetRows.ts';

export type Things = AnswerOf<typeof calls.listThings>;
export type Thing = Things['things'][number];

/** What a list is of: a kind, and of values the option or attribute. */
export interface ListOfThings {
  readonly kind: KindKey;
  readonly of?: string;
}

/** Types that are too long for a row, and stand on the thing's own page. */
const APART: readonly ValueTypeKey[] = ['products', 'longText', 'picture'];

/** The rows of a list of the shop, which are all there at once. */
export class ThingRows extends SheetRows {
  private readonly byId: ReadonlyMap<string, Thing>;
  private readonly rowById = new Map<string, SheetRow>();

  constructor(
    asking: Asking,
    private readonly list: ListOfThings,
    { columns, things, pending }: Things,
  ) {
    super(asking, things.length);
    // Fields that only the proof in hand makes stand behind the others, and are empty until it gives them a value.
    const proposed = asking.register.of(list.kind).filter(({ store }) => store.in === 'proposed');
    const keys = [...columns, ...proposed.map(({ key }) => key)];
    // The place is what the rows are ordered by, and no text that one types.
    this.columns = keys.filter((key) => key !== 'place');
    this.byId = new Map(things.map((thing) => [thing.id, thing]));
    things.forEach(({ id, values }, i) => {
      const row = this.rows[i]!;
      row.id = id;
      this.rowById.set(id, row);
      row.landed = Object.fromEntries(keys.map((key, place) => [key, values[place] ?? null]));
      row.pending = {};
      this.write(row);
    });
    this.lay(pending);
  }

  /** The thing of a row. */
  thingOf({ id }: SheetRow): Thing | undefined {
    return this.byId.get(id ?? '');
  }

  /** The rows of what a row lies in, as the proof in hand has it. */
  private outer(row: SheetRow): ReadonlySet<SheetRow> {
    const within = new Set<SheetRow>();
    const next = (inner: SheetRow) => this.rowById.get(valueInHand(inner, 'parent') ?? '');
    // A proposal may lay two things into one another until it is examined.
    for (let at = next(row); at && !within.has(at); at = next(at)) within.add(at);
    return within;
  }

  /** How many things a row lies in, as the proof in hand has it. */
  depthOf(row: SheetRow): number {
    return this.outer(row).size;
  }

  /** Rows that lie below one of these, as the proof in hand has it, without these. */
  below(rows: readonly SheetRow[]): SheetRow[] {
    const among = new Set(rows);
    return this.rows.filter((row) => !among.has(row) && [...this.outer(row)].some((one) => among.has(one)));
  }

  /** Those of some rows that lie below no other of them. */
  topmost(rows: readonly SheetRow[]): SheetRow[] {
    const among = new Set(rows);
    return rows.filter((row) => ![...this.outer(row)].some((one) => among.has(one)));
  }

  override isSameSet(other: SheetRows): boolean {
    return other instanceof ThingRows && other.list.kind === this.list.kind && other.list.of === this.list.of;
  }

  /** A list is read in the order of its names: what is renamed stands elsewhere. */
  override placeOf({ id, place }: SheetRow): number {
    return this.rows.find((row) => row.id === id)?.place ?? place;
  }

  override fieldOf(key: string): Field | undefined {
    return this.asking.register.at(this.list.kind, key);
  }

  override addressOf({ id }: SheetRow): CellAddress {
    return { kind: this.list.kind, id: id! };
  }

  protected override thingsOf(row: SheetRow): readonly CellAddress[] {
    return [this.addressOf(row)];
  }

  override load(): Promise<boolean> {
    return Promise.resolve(false);
  }

  /** The fields that a person sees and sets, in order. */
  get shownFields(): Field[] {
    return this.columns.flatMap((key: FieldKey) => this.fieldOf(key) ?? []).filter(({ type }) => !APART.includes(type));
  }
}
