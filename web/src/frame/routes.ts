import { type Route, type Routes } from '@angular/router';
import { type Desk } from '@ivory/contract';
import { words } from '../words/en.ts';

/** Three desks are one workbench with other columns and verbs. */
const workbench = (desk: Desk): Route => ({
  path: desk,
  title: words.desks[desk],
  data: { desk },
  loadComponent: () => import('../workbench/workbench.ts').then((m) => m.Workbench),
});

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'range' },
  workbench('range'),
  workbench('prices'),
  workbench('stock'),
  {
    path: 'calendar',
    title: words.calendar.title,
    loadComponent: () => import('../desks/prices/calendar.ts').then((m) => m.Calendar),
  },
  {
    path: 'findability',
    title: words.desks.findability,
    loadComponent: () => import('../desks/findability/findability.ts').then((m) => m.Findability),
  },
  {
    path: 'outlets',
    title: words.desks.outlets,
    loadComponent: () => import('../desks/outlets/outlets.ts').then((m) => m.Outlets),
  },
  {
    path: 'rule',
    title: words.rule.title,
    loadComponent: () => import('../rule/ruleBench.ts').then((m) => m.RuleBench),
  },
  {
    path: 'proof',
    title: words.proof.title,
    loadComponent: () => import('../proof/proofPage.ts').then((m) => m.ProofPage),
  },
  {
    path: 'proof/:id',
    title: words.proof.title,
    loadComponent: () => import('../proof/proofPage.ts').then((m) => m.ProofPage),
  },
  {
    path: 'journal',
    title: words.journal,
    loadComponent: () => import('../journal/journal.ts').then((m) => m.Journal),
  },
  {
    path: 'orders',
    title: words.orders.title,
    loadComponent: () => import('../journal/orders.ts').then((m) => m.Orders),
  },
  {
    path: 'import/:id',
    title: words.import.title,
    loadComponent: () => import('../exchange/importPage.ts').then((m) => m.ImportPage),
  },
  {
    path: 'lists',
    title: words.lists.title,
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'brand' },
      { path: ':kind', loadComponent: () => import('../lists/lists.ts').then((m) => m.Lists) },
      { path: ':kind/:of', loadComponent: () => import('../lists/lists.ts').then((m) => m.Lists) },
    ],
  },
  {
    path: 'new',
    title: words.folio.newProduct,
    loadComponent: () => import('../folio/product/newProduct.ts').then((m) => m.NewProduct),
  },
  {
    path: 'archive',
    title: words.cleared.title,
    loadComponent: () => import('../lists/clearedAway.ts').then((m) => m.ClearedAway),
  },
  {
    path: 'folio/:kind/:id',
    title: words.folio.index,
    loadComponent: () => import('../folio/folio.ts').then((m) => m.Folio),
  },
  { path: '**', redirectTo: 'range' },
];
