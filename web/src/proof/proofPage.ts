import { ScrollingModule } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { calls, type ProofSummary, type ShownLine, wireProblemWords } from '@ivory/contract';
import {
  asksFor,
  type KindKey,
  type LineField,
  type WarningKey,
  scopeOf,
  shopperMeets,
  showBasisPoints,
  type ValueTypeKey,
  withoutScope,
} from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzCheckboxModule } from 'ng-zorro-antd/checkbox';
import { map, type Observable } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { keyAction } from '../keys/register.ts';
import { CodesNotFound } from '../question/codesNotFound.ts';
import { OpenRows } from '../question/openRows.ts';
import { columnOfCodes, PastedCodes } from '../question/pastedCodes.ts';
import { ProofPlan } from '../planned/proofPlan.ts';
import { hand } from '../state/hand.ts';
import { HandActions } from '../state/handActions.ts';
import { InTurn } from '../state/inTurn.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { planned } from '../state/planned.ts';
import { session } from '../state/session.ts';
import { WordsDiffer } from '../theme/wordsDiffer.ts';
import { words } from '../words/en.ts';
import { share, whole } from '../words/numbers.ts';
import { comesTo, onWhat } from './comesTo.ts';
import { ImportOutcome } from './importOutcome.ts';
import { fieldWords, lineWords } from './lineWords.ts';
import { LandProof } from './landProof.ts';
import { ProofAside } from './proofAside.ts';
import { ProofCharts } from './proofCharts.ts';

/** Which lines are shown: all, or those of one group. */
export interface LineFilter {
  readonly warning?: WarningKey;
  readonly kind?: KindKey;
  readonly field?: LineField;
  readonly source?: string;
  readonly shoppers?: 'true';
  readonly find?: string;
  readonly leftOut?: boolean;
}

const BLOCK = 200;
const TEXTS: readonly ValueTypeKey[] = ['text', 'longText', 'richText', 'textList', 'code'];

/** The proof looked through: before and after of every line, in groups, what there is to look at, and landing. */
@Component({
  selector: 'ivory-proof-page',
  host: { '(document:keydown)': 'key($event)' },
  imports: [
    FormsModule,
    RouterLink,
    ScrollingModule,
    NzButtonModule,
    NzCheckboxModule,
    CodesNotFound,
    ImportOutcome,
    ProofAside,
    ProofCharts,
    ProofPlan,
    WordsDiffer,
  ],
  templateUrl: './proofPage.html',
  styleUrl: './proofPage.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProofPage {
  /** From the route; without it, the proof in hand. */
  readonly id = input<string>();

  protected readonly words = words;
  protected readonly whole = whole;
  protected readonly share = share;
  protected readonly comesTo = comesTo;
  protected readonly onWhat = onWhat;
  protected readonly what = lineWords;
  protected readonly groupName = fieldWords;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly inTurn = inject(InTurn);
  private readonly router = inject(Router);
  private readonly landing = inject(LandProof);
  private readonly opener = inject(OpenRows);
  private readonly pastedCodes = inject(PastedCodes);
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly version = this.store.selectSignal(hand.selectVersion);

  private readonly read = rxResource({
    params: () => ({ id: this.id(), version: this.version() }),
    stream: ({ params }): Observable<ProofSummary | null> =>
      params.id === undefined
        ? this.api.call(calls.getHandProof).pipe(map(({ proof }) => proof))
        : this.api.call(calls.getProof, { params: { id: params.id } }).pipe(map(({ proof }) => proof)),
  });
  protected readonly proof = linkedSignal(() => (this.read.hasValue() ? this.read.value() : undefined));
  protected readonly failed = computed(() => this.read.error()?.message);
  /** The lines of one of the groups at the side; all, where it names nothing. */
  protected readonly group = signal<LineFilter>({});
  /** Words, a code or a question by which lines are found within the group. */
  protected readonly find = signal('');
  protected readonly filter = computed((): LineFilter =>
    this.find() === '' ? this.group() : { ...this.group(), find: this.find() },
  );
  /** Why what was typed to find lines does not read. */
  protected readonly unread = linkedSignal<string | undefined>(() => {
    this.filter();
    return undefined;
  });
  /** Whether there is anything to look at: it has a wide column then. */
  protected readonly hasWarnings = computed(() => (this.proof()?.warnings.length ?? 0) > 0);
  /** What stops the landing, also where a person agreed to it since, stands before all else. */
  protected readonly warnings = computed(() => {
    const stops = ({ stops, warning }: ProofSummary['warnings'][number]) => Number(stops || asksFor(warning));
    return [...(this.proof()?.warnings ?? [])].sort((a, b) => stops(b) - stops(a));
  });
  /** Whether lines of one product stand together. */
  protected readonly byProduct = signal(false);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  /** How many lines shoppers will see something of. */
  protected readonly forShoppers = computed(() => {
    const { register } = this.asking();
    return (this.proof()?.fields ?? [])
      .filter(({ kind, field: key }) => {
        const field = kind === 'product' || kind === 'sku' ? register.find(key) : undefined;
        return field ? shopperMeets(field) : key === 'exists' && (kind === 'product' || kind === 'sku');
      })
      .reduce((sum, { lines }) => sum + lines, 0);
  });
  /** What was to be left out or taken in and was not, in words; until something else is chosen. */
  protected readonly kept = linkedSignal<string | undefined>(() => {
    this.filter();
    return undefined;
  });
  protected readonly lines = signal<readonly (ShownLine | undefined)[]>([]);
  protected readonly isLanding = signal(false);
  /** Whether it is asked when the proof lands. */
  protected readonly plans = signal(false);
  protected readonly isPlanned = this.store.selectSignal(planned.selectIsPlanned);
  protected readonly open = computed(() => this.proof()?.state === 'open');
  private readonly loaded = new Set<number>();

  constructor() {
    effect(() => {
      const id = this.proof()?.id;
      const filter = this.filter();
      this.byProduct();
      this.version();
      untracked(() => {
        this.loaded.clear();
        this.lines.set([]);
        if (id !== undefined) this.loadBlock(id, filter, 0);
      });
    });
  }

  protected key(event: KeyboardEvent): void {
    if (keyAction('proof', event) !== 'land') return;
    event.preventDefault();
    this.land();
  }

  protected goTo(proof: string): void {
    void this.router.navigate(['/proof', proof]);
  }

  protected ofGroup({ kind, field }: ProofSummary['fields'][number]): LineFilter {
    return { kind, field };
  }

  /** Whether words are marked that differ: where a text is replaced by another. */
  protected isText({ kind, field: key, before, after }: ShownLine): boolean {
    const type = this.asking().register.at(kind, withoutScope(key), scopeOf(key))?.type;
    return before !== null && after !== null && type !== undefined && TEXTS.includes(type);
  }

  protected warningName(warning: WarningKey): string {
    return warning === 'large change'
      ? words.proof.largeChange(showBasisPoints(this.shop()?.largeChange ?? 0))
      : words.proof.warningNames[warning]!;
  }

  protected warningsOf({ warnings }: ShownLine): string {
    // What waits for a person comes first.
    return [...warnings]
      .sort((a, b) => Number(asksFor(b)) - Number(asksFor(a)))
      .map((warning) => this.warningName(warning))
      .join(', ');
  }

  /** The SKUs of the lines that are shown, of one group or all, become the working set. */
  protected openSkus({ id, title, kind }: ProofSummary): void {
    const { leftOut: _, ...filter } = this.filter();
    this.opener.byList(words.proof.skusOf(title || words.proof.kinds[kind]!), { kind: 'proof', id, filter });
  }

  /** The address of the lines that are shown, as a file. */
  protected fileOf({ id }: ProofSummary): string {
    const filter = Object.entries(this.filter()).map(([key, value]) => [key, String(value)]);
    return `/api/proofs/${id}/lines.csv?${new URLSearchParams(filter)}`;
  }

  protected isChosen(filter: LineFilter): boolean {
    return JSON.stringify(filter) === JSON.stringify(this.group());
  }

  protected loadAt(index: number): void {
    const id = this.proof()?.id;
    if (id === undefined) return;
    for (const block of [Math.floor(index / BLOCK), Math.floor((index + 60) / BLOCK)])
      this.loadBlock(id, this.filter(), block);
  }

  private loadBlock(id: string, filter: LineFilter, block: number): void {
    if (this.loaded.has(block)) return;
    this.loaded.add(block);
    const by = this.byProduct();
    const query = { from: block * BLOCK, count: BLOCK, ...filter, ...(by && { by: 'product' as const }) };
    this.api.call(calls.getProofLines, { params: { id }, query }).subscribe({
      next: ({ total, lines }) => {
        if (filter !== this.filter() || by !== this.byProduct()) return;
        this.lines.update((before) => {
          const all = before.length === total ? [...before] : Array.from({ length: total }, (_, i) => before[i]);
          lines.forEach((line, i) => (all[block * BLOCK + i] = line));
          return all;
        });
      },
      error: (error: unknown) => this.notRead(error),
    });
  }

  /** A question that does not read is told where it stands. */
  private notRead(error: unknown): void {
    const { places: [place] = [], title } = detailsOf(error);
    if (this.find() === '') this.refuse(error);
    else this.unread.set(place ? wireProblemWords(place) : title);
  }

  /** A column of codes that is pasted finds the lines of just these. */
  protected pasteCodes(event: ClipboardEvent): void {
    const codes = columnOfCodes(event.clipboardData?.getData('text/plain') ?? '', this.asking().register);
    if (!codes) return;
    event.preventDefault();
    this.pastedCodes.open(codes, (question) => this.find.set(question));
  }

  protected leaveOut(line: ShownLine, out: boolean): void {
    const { kind, id, field } = line;
    this.send({ out, lines: [{ kind, id, field }] }, () =>
      // Its other lines have changed too.
      line.together
        ? this.again()
        : this.lines.update((all) => all.map((one) => (one === line ? { ...line, leftOut: out } : one))),
    );
  }

  /** What is looked at, where it stops until a person agrees: of how many lines, and to how many was agreed. */
  protected readonly asked = computed(() => {
    const found = this.proof()?.warnings.find(({ warning }) => warning === this.filter().warning);
    return found?.agreed === undefined
      ? undefined
      : { warning: found.warning, lines: found.lines, agreed: found.agreed };
  });

  protected agree(agreed: boolean): void {
    const { warning } = this.asked()!;
    this.inTurn
      .run(this.api.call(calls.agreeTo, { params: { id: this.proof()!.id }, body: { warning, agreed } }))
      .subscribe({
        next: ({ proof }) => {
          this.proof.set(proof);
          if (proof.kind === 'hand') this.store.dispatch(HandActions.edited({ proof }));
        },
        error: (error: unknown) => this.refuse(error),
      });
  }

  protected leaveOutShown(out: boolean): void {
    const { leftOut: _, ...filter } = this.filter();
    this.send({ out, filter }, (kept) => {
      this.again();
      if (kept > 0) this.kept.set(words.proof.kept(whole(kept), out));
    });
  }

  private send(body: Parameters<typeof this.leave>[0], done: (kept: number) => void): void {
    this.leave(body).subscribe({
      next: ({ proof, kept }) => {
        this.proof.set(proof);
        if (proof.kind === 'hand') this.store.dispatch(HandActions.edited({ proof }));
        done(kept);
      },
      error: (error: unknown) => this.refuse(error),
    });
  }

  private leave(body: {
    out: boolean;
    lines?: { kind: KindKey; id: string; field: LineField }[];
    filter?: LineFilter;
  }) {
    const { leftOut: _, ...filter } = body.filter ?? {};
    return this.inTurn.run(
      this.api.call(calls.leaveOut, {
        params: { id: this.proof()!.id },
        body: { out: body.out, ...(body.lines && { lines: body.lines }), ...(body.filter && { filter }) },
      }),
    );
  }

  private again(): void {
    this.group.update((group) => ({ ...group }));
  }

  protected land(): void {
    const proof = this.proof();
    if (!proof || !this.open() || proof.lines === 0 || this.isLanding()) return;
    this.isLanding.set(true);
    this.landing.land(proof.id, {
      landed: () => void this.router.navigateByUrl('/journal'),
      refused: () => {
        this.isLanding.set(false);
        this.read.reload();
        this.again();
      },
    });
  }

  protected discard(): void {
    const { id } = this.proof()!;
    this.inTurn.run(this.api.call(calls.discardProof, { params: { id } })).subscribe({
      next: () => {
        this.store.dispatch(HandActions.readAgain());
        void this.router.navigateByUrl('/range');
      },
      error: (error: unknown) => this.refuse(error),
    });
  }

  private refuse(error: unknown): void {
    this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) }));
  }

  protected readonly otherProofs = rxResource({
    params: () => this.version(),
    stream: () => this.api.call(calls.listProofs).pipe(map(({ proofs }) => proofs)),
    defaultValue: [],
  });
  protected readonly others = computed(() => this.otherProofs.value().filter(({ id }) => id !== this.proof()?.id));
}
