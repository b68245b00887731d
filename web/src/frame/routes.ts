import { type Routes } from '@angular/router';

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'range' },
  { path: 'range', data: { desk: 'range' }, loadComponent: () => import('../bench/bench.ts').then((m) => m.Bench) },
  { path: 'prices', data: { desk: 'prices' }, loadComponent: () => import('../bench/bench.ts').then((m) => m.Bench) },
  { path: 'stock', data: { desk: 'stock' }, loadComponent: () => import('../bench/bench.ts').then((m) => m.Bench) },
  {
    path: 'findability',
    loadComponent: () => import('../desks/findability/findability.ts').then((m) => m.Findability),
  },
  { path: 'outlets', loadComponent: () => import('../desks/outlets/outlets.ts').then((m) => m.Outlets) },
  { path: 'rule', loadComponent: () => import('../rule/ruleBench.ts').then((m) => m.RuleBench) },
  { path: 'proof', loadComponent: () => import('../proof/proofPage.ts').then((m) => m.ProofPage) },
  { path: 'proof/:id', loadComponent: () => import('../proof/proofPage.ts').then((m) => m.ProofPage) },
  { path: 'journal', loadComponent: () => import('../journal/journal.ts').then((m) => m.Journal) },
  { path: 'import/:id', loadComponent: () => import('../exchange/importPage.ts').then((m) => m.ImportPage) },
  { path: '**', redirectTo: 'range' },
];
