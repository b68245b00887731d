import { type Page } from '@playwright/test';
import { buildSync } from 'esbuild';
import { join } from 'node:path';

const [bundle] = buildSync({
  entryPoints: [join(import.meta.dirname, 'inPage/whatIsCut.ts')],
  ...{ bundle: true, format: 'iife', globalName: 'inPage', write: false },
}).outputFiles;

/**
 * What is cut off or lies under something else on the page as it is seen now: texts and controls, each said with what is wrong. What is
 * scrolled away wholly is not cut; nor is what is half scrolled away downwards. Cells that hold a text of any length, such as a name, may
 * end in three dots; numbers and codes may not.
 */
export const nothingCut = (page: Page): Promise<string[]> => page.evaluate(`${bundle!.text}; inPage.whatIsCut()`);
