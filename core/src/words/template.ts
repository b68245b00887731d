import { bad, good, type Result } from '../problems/problem.ts';
import { tidied } from './tidied.ts';

/** A piece of a template: words as they stand, or the first of several fields and texts that is not empty. */
export type TemplatePart =
  { readonly kind: 'text'; readonly text: string } | { readonly kind: 'first'; readonly of: readonly TemplateChoice[] };
export type TemplateChoice =
  { readonly kind: 'field'; readonly key: string } | { readonly kind: 'text'; readonly text: string };

const PIECE = /\{([^{}]*)\}|([^{}]+)|([{}])/g;

/**
 * Reads a template such as `{brand} {model|name} {size|"one size"}`; `keyOf` gives the key of a field by how it is written. Refuses
 * braces that do not close, empty ones, and fields that there are not.
 */
export function readTemplate(
  text: string,
  keyOf: (written: string) => string | undefined,
): Result<readonly TemplatePart[]> {
  const parts: TemplatePart[] = [];
  for (const [whole, inner, words] of text.matchAll(PIECE)) {
    if (words !== undefined) parts.push({ kind: 'text', text: words });
    else if (inner === undefined) return bad('template-brace', { value: whole });
    else {
      const of: TemplateChoice[] = [];
      for (const written of inner.split('|').map((one) => one.trim())) {
        const quoted = /^"([^"]*)"$/.exec(written);
        const key = quoted ? undefined : keyOf(written);
        if (quoted) of.push({ kind: 'text', text: quoted[1]! });
        else if (key !== undefined) of.push({ kind: 'field', key });
        else return bad('template-field', { value: written === '' ? whole : written });
      }
      parts.push({ kind: 'first', of });
    }
  }
  return good(parts);
}

/** A template as text; `nameOf` says how a field is written. */
export const templateText = (parts: readonly TemplatePart[], nameOf: (key: string) => string): string =>
  parts
    .map((part) =>
      part.kind === 'text'
        ? part.text
        : `{${part.of.map((one) => (one.kind === 'text' ? `"${one.text}"` : nameOf(one.key))).join('|')}}`,
    )
    .join('');

/** What a template comes to; `valueOf` gives the text of a field, empty where there is none. What stood between empty fields goes. */
export const written = (parts: readonly TemplatePart[], valueOf: (key: string) => string): string =>
  tidied(
    parts
      .map((part) =>
        part.kind === 'text'
          ? part.text
          : (part.of.map((one) => (one.kind === 'text' ? one.text : valueOf(one.key))).find((text) => text !== '') ??
            ''),
      )
      .join(''),
  );

/** The fields that a kept template names. */
export const templateFields = (kept: string): string[] => {
  const read = readTemplate(kept, (key) => key);
  if (!read.ok) return [];
  return read.value.flatMap((part) =>
    part.kind === 'text' ? [] : part.of.flatMap((one) => (one.kind === 'field' ? [one.key] : [])),
  );
};
