/** A page of its own. */
export default {
  recipe: 'Add a page',
  edits: [
    {
      create: 'web/src/desks/ledger/ledger.ts',
      text: `import { ChangeDetectionStrategy, Component } from '@angular/core';
import { words } from '../../words/en.ts';

/** A page that a recipe makes. */
@Component({
  selector: 'ivory-ledger',
  template: \`<div class="page"><h1>{{ words.ledger.title }}</h1></div>\`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Ledger {
  protected readonly words = words;
}
`,
    },
    { file: 'web/src/words/en.ts', behind: 'export const words = {\n', put: "  ledger: { title: 'Ledger' },\n" },
    {
      file: 'web/src/frame/routes.ts',
      behind: "  workbench('stock'),\n",
      put: `  {
    path: 'ledger',
    title: words.ledger.title,
    loadComponent: () => import('../desks/ledger/ledger.ts').then((m) => m.Ledger),
  },
`,
    },
  ],
};
