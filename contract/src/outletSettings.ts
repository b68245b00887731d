import * as z from 'zod';
import { outletSettingWords as words } from './words/outlets.en.ts';

/** A text that must pass a test, or is refused in words for the person who typed it. */
const text = (holds: (text: string) => boolean, why: (text: string) => string) =>
  z.string().refine(holds, { error: ({ input }) => why(String(input)) });

/** Where a browser or another program may go. */
const isWebAddress = (address: string): boolean => URL.canParse(address) && /^https?:\/\//i.test(address);

/** What an outlet sets of its feed file, and where the file is handed in. */
export const outletSettingsSchema = z.object({
  title: text((title) => title.length >= 1 && title.length <= 150, words.title),
  link: text(isWebAddress, words.link),
  // Names that begin with xml are kept by the standard for itself (Namespaces in XML 1.0, section 3).
  prefix: text((prefix) => /^(?!xml)[a-z][a-z0-9_-]{0,19}$/i.test(prefix), words.prefix),
  namespace: text((address) => /^[^\s<>"]{1,200}$/.test(address), words.namespace),
  fileName: text((name) => /^[a-z0-9][a-z0-9_-]{0,59}\.xml$/i.test(name), words.fileName),
  address: text(isWebAddress, words.address),
});
