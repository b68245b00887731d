import { type Generated } from 'kysely';

/** Rows as the database gives them: bigint ids and amounts come as text and stay so. */
export interface Tables {
  shop: {
    single: Generated<boolean>;
    name: string;
    currency: string;
    time_zone: string;
    floor_margin_bp: number;
    large_change_bp: number;
    when_out: Generated<string>;
  };
  person: { id: Generated<string>; name: string; is_shop: Generated<boolean> };
  brand: { id: Generated<string>; name: string; name_key: Generated<string> };
  supplier: { id: Generated<string>; name: string; name_key: Generated<string> };
  tag: { id: Generated<string>; name: string };
  choice: { id: Generated<string>; field_id: string; name: string; place: number };
  category: { id: Generated<string>; parent_id: string | null; name: string; place: number };
  proof: {
    id: Generated<string>;
    person_id: string;
    kind: 'hand' | 'aside' | 'planned' | 'import' | 'take back' | 'following' | 'order';
    title: string;
    note: Generated<string | null>;
    state: Generated<'gathering' | 'open' | 'landing' | 'landed' | 'discarded'>;
    takes_back: string | null;
    /** It takes a part of that landing back, and not the whole. */
    takes_part: Generated<boolean>;
    import_id: string | null;
    made_at: Generated<Date>;
    /** The snapshot at which the whole of it was examined last. */
    examined: Generated<string>;
  };
  proof_edit: { proof_id: string; no: number; title: string };
  proof_line: {
    proof_id: string;
    edit_no: number;
    kind: string;
    id: string;
    field: string;
    scope: Generated<string>;
    before: string | null;
    after: string | null;
    flags: Generated<number>;
    left_out: Generated<boolean>;
    agreed: Generated<number>;
    under: unknown;
  };
  live_line: {
    proof_id: string;
    kind: string;
    id: string;
    field: string;
    scope: Generated<string>;
    before: string | null;
    after: string | null;
    flags: number;
  };
  import_file: {
    id: Generated<string>;
    person_id: string;
    file_name: string;
    file_key: string;
    encoding: string;
    delimiter: string;
    /** As a spreadsheet shows it. */
    heading_row: number;
    decimal_sign: string;
    columns: unknown;
    settings: unknown;
    state: Generated<string>;
    proof_id: string | null;
    joined_rows: Generated<number>;
    joined_products: Generated<number>;
    zeros: unknown;
    made_at: Generated<Date>;
  };
  work: {
    id: Generated<string>;
    person_id: string;
    kind: 'import' | 'land' | 'take back' | 'deliver' | 'pictures';
    title: string;
    data: unknown;
    state: Generated<'waiting' | 'running' | 'done' | 'failed' | 'stopped'>;
    done: Generated<number>;
    total: number | null;
    note: string | null;
    result: string | null;
    stop_asked: Generated<boolean>;
    /** How often it was begun. */
    tries: Generated<number>;
    made_at: Generated<Date>;
  };
  outlet: { id: Generated<string>; name: string; settings: unknown; formula_id: string | null };
  outlet_line: { outlet_id: string; sku_id: string; formula: string };
  delivery: {
    id: Generated<string>;
    outlet_id: string;
    at: Generated<Date>;
    file_key: string;
    file_name: string;
    items: number;
    skus: string[];
    bytes: string;
    hash: string;
    handed_over: Generated<boolean>;
    file_gone: Generated<boolean>;
    state: string;
    note: string | null;
  };
}
