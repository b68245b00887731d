import { FEED_FIELD_KEYS, FEED_WORD_KEYS } from '@ivory/core';
import * as z from 'zod';
import { outletSettingWords as words } from './words/outlets.en.ts';

/** A text that must pass a test, or is refused in words for the person who typed it. */
const text = (holds: (text: string) => boolean, why: (text: string) => string) =>
  z.string().refine(holds, { error: ({ input }) => why(String(input)) });

/** Where a browser or another program may go. */
const isWebAddress = (address: string): boolean => URL.canParse(address) && /^https?:\/\//i.test(address);

const byKey = <Key extends string>(keys: readonly Key[], value: (key: Key) => z.ZodType<string>) =>
  z.object(Object.fromEntries(keys.map((key) => [key, value(key)])) as Record<Key, z.ZodType<string>>);

/** A name as an element of XML may have it (XML 1.0, section 2.3, without the colon); empty leaves the field out. */
const isNameInFile = (name: string): boolean => /^(?:(?!xml)[\p{L}_][\p{L}\p{N}_.-]{0,59})?$/iu.test(name);
const isWordInFile = (word: string): boolean => /^[^\p{Cc}\p{Cs}]{1,60}$/u.test(word) && word.trim() === word;

/** What an outlet calls the fields in its file: each name once. */
const names = byKey(FEED_FIELD_KEYS, () => text(isNameInFile, words.nameInFile)).refine(
  (given) => twice(Object.values(given)) === undefined,
  { error: ({ input }) => words.nameTwice(twice(Object.values(input as Record<string, string>)) ?? '') },
);

const twice = (given: readonly string[]): string | undefined =>
  given.find((name, i) => name !== '' && given.indexOf(name) !== i);

/** What an outlet sets of its feed file, and where the file is handed in. */
export const outletSettingsSchema = z.object({
  title: text((title) => title.length >= 1 && title.length <= 150, words.title),
  link: text(isWebAddress, words.link),
  // Names that begin with xml are kept by the standard for itself (Namespaces in XML 1.0, section 3).
  prefix: text((prefix) => /^(?!xml)[a-z][a-z0-9_-]{0,19}$/i.test(prefix), words.prefix),
  namespace: text((address) => /^[^\s<>"]{1,200}$/.test(address), words.namespace),
  fileName: text((name) => /^[a-z0-9][a-z0-9_-]{0,59}\.xml$/i.test(name), words.fileName),
  address: text(isWebAddress, words.address),
  names,
  values: byKey(FEED_WORD_KEYS, () => text(isWordInFile, words.wordInFile)),
});
export type OutletSettings = z.infer<typeof outletSettingsSchema>;

const kept = z.string();
/** What is kept, maybe by an earlier version: read whatever it is, so that it can be looked at and mended where it could not be set so any more. */
export const keptSettingsSchema = z.object({
  ...{ title: kept, link: kept, prefix: kept, namespace: kept, fileName: kept, address: kept },
  names: byKey(FEED_FIELD_KEYS, () => kept.default('')),
  values: byKey(FEED_WORD_KEYS, (word) => kept.default(word)),
});

/**
 * The settings of an outlet of what is kept of them. A field that has no name yet is left out of the file; a word that is not there is that of
 * schema.org. Throws where what is kept is no settings at all.
 */
export const outletSettingsOf = (stored: unknown): OutletSettings => keptSettingsSchema.parse(stored);
