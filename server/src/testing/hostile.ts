import { type Call } from '@ivory/contract';
import fc from 'fast-check';
import * as z from 'zod';

/** As much of JSON Schema as Zod writes for the contract. */
interface Shape {
  readonly type?: string;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly anyOf?: readonly Shape[];
  readonly oneOf?: readonly Shape[];
  readonly properties?: Readonly<Record<string, Shape>>;
  readonly required?: readonly string[];
  readonly items?: Shape;
  readonly pattern?: string;
}

/** Texts that have broken programs: names that every object has, halves of characters, numbers beyond any column, quotes. */
const TEXTS = [
  ...[
    '',
    ' ',
    'constructor',
    '__proto__',
    'toString',
    'hasOwnProperty',
    '\0',
    '\ud800',
    '\udfff\ud800',
    '\u202e',
    "'",
    '"',
  ],
  ...['\\', '%', '_', '%s', '${x}', '{{x}}', '<script>', '../../etc/passwd', '(', ')', 'not (', '/*', '--', ';'],
  ...['300000000', '2147483648', '-1', '99999999999999999999', '1e308', 'NaN', 'null', 'true', '0x10', '1.5', '１２'],
  ...[
    'in Ink',
    'price < 5',
    'brand is "x"',
    'list is constructor',
    'gap is "no picture"',
    'A'.repeat(5_000),
    '🖋️',
    'İ',
  ],
];
const text = fc.oneof(
  { weight: 4, arbitrary: fc.constantFrom(...TEXTS) },
  fc.string({ unit: 'binary', maxLength: 30 }),
  fc.string({ maxLength: 30 }),
);
const id = fc.oneof(
  { weight: 4, arbitrary: fc.constantFrom('1', '2', '3', '0', '999999999999999999', '00000000000000000001', '007') },
  text,
);
const number = fc.oneof(
  fc.constantFrom(0, 1, -1, 2_147_483_647, 2_147_483_648, 300_000_000, 1e21, 0.5, -0, Number.MAX_SAFE_INTEGER),
  fc.integer(),
);
/** What does not belong at all. */
const stray = fc.constantFrom<unknown>(null, {}, [], 'x', 5, true, { __proto__: null }, [[[]]]);

function arbitraryOf(shape: Shape): fc.Arbitrary<unknown> {
  const fitting = fittingOf(shape);
  return fc.oneof({ weight: 12, arbitrary: fitting }, stray);
}

function fittingOf(shape: Shape): fc.Arbitrary<unknown> {
  if (shape.const !== undefined) return fc.constant(shape.const);
  if (shape.enum) return fc.constantFrom(...shape.enum);
  const others = shape.anyOf ?? shape.oneOf;
  if (others) return fc.oneof(...others.map(fittingOf));
  switch (shape.type) {
    case 'object': {
      const fields = Object.entries(shape.properties ?? {}).map(([key, field]) => [key, arbitraryOf(field)] as const);
      return fc.record(Object.fromEntries(fields), { requiredKeys: [...(shape.required ?? [])] });
    }
    case 'array':
      return fc.array(arbitraryOf(shape.items ?? {}), { maxLength: 4 });
    case 'integer':
    case 'number':
      return number;
    case 'boolean':
      return fc.boolean();
    case 'string':
      return shape.pattern === undefined ? text : id;
    default:
      return fc.oneof(text, number, stray);
  }
}

type AnyCall = Call<unknown, unknown, unknown, unknown, unknown>;

const shapeOf = (schema: z.ZodType): Shape =>
  z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as unknown as Shape;

/** Hostile input for a call, made from its schemas: mostly of the right shape, with values that break programs in it. */
export function hostileInput({ params, query, body }: AnyCall): fc.Arbitrary<{
  readonly params: Readonly<Record<string, string>>;
  readonly query: Readonly<Record<string, string>>;
  readonly body: unknown;
}> {
  const texts = (schema: z.ZodType, value: fc.Arbitrary<string>) => {
    const { properties = {}, required = [] } = shapeOf(schema);
    const fields = Object.keys(properties).map((key) => [key, value] as const);
    return fc.record(Object.fromEntries(fields), { requiredKeys: [...required] }) as fc.Arbitrary<
      Record<string, string>
    >;
  };
  return fc.record({
    params: texts(params, id),
    query: texts(query, fc.oneof(id, number.map(String))),
    body: arbitraryOf(shapeOf(body)),
  });
}
