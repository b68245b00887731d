import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';
import { laterParts } from './eslint.parts.mjs';

/** Imports run one way: core ← contract ← server and web; stand-ins, end-to-end tests and benches stand outside. */
const never = (...patterns) => ({
  'no-restricted-imports': ['error', { patterns }],
});
const forbid = (group, message) => ({ group, message });
const PARTS = forbid(['@ivory/*'], 'This package may not know that one.');
const BEHIND_THE_DOOR = forbid(
  ['**/server/src/**', '**/web/src/**', '**/core/src/**', '**/contract/src/**'],
  'Go through the package.',
);

const ZOD_AS_A_WHOLE = {
  selector: "ImportDeclaration[source.value='zod'] > ImportSpecifier[imported.name='z']",
  message: "import * as z from 'zod' leaves the locales out.",
};
/** Whoever holds a connection and waits for another may wait for somebody who does the same: for ever. */
const ONE_CONNECTION = {
  selector:
    'CallExpression[callee.name=/^(inTransaction|inShortTransaction|inTwoTransactions|withConnection|cancellable|within)$/] > ArrowFunctionExpression Identifier[name="db"]',
  message:
    'Within a transaction use its own connection (tx), not the pool: inTwoTransactions is for the one pair there is.',
};

const REFUSES_IN_WORDS = {
  selector:
    'NewExpression[callee.name="Refusal"] > :matches(TemplateLiteral, BinaryExpression, Literal:nth-child(2)).arguments',
  message: 'What is refused is said in contract/src/words/refusals.en.ts, so that another language is possible.',
};

const OF_CORE = [
  PARTS,
  forbid(['node:*', 'pg', 'kysely', 'hono', '@angular/*', '@ngrx/*'], 'core is pure computation.'),
];
const OF_SERVER = [
  forbid(['@ivory/demo', '@ivory/standins/*'], 'The server knows neither demo nor stand-ins.'),
  forbid(['**/web/src/**'], 'Go through HTTP.'),
  forbid(['**/app.ts'], 'The app knows the parts; what they work with is http/appContext.ts.'),
];
const OF_WEB = [
  forbid(['@ivory/server', '@ivory/demo'], 'The web knows the server by its contract.'),
  forbid(['**/desks/*/**', '../desks/*'], 'A desk knows no other desk.'),
];
/** A part knows only those before it; what it is tested with may be any. */
const inOrder = (root, patterns) =>
  laterParts(root).map(({ files, pattern }) => ({
    files,
    ignores: ['**/*.spec.ts', '**/routes.ts'],
    rules: never(...patterns, pattern),
  }));

export default tseslint.config(
  { ignores: ['**/node_modules', '**/dist', 'data', 'data-own', '**/.angular', '.cache', 'web/karma.conf.cjs'] },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.strictTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      // A template never prints undefined or an object.
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true, allowBoolean: true }],
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true, requireDefaultForNonUnion: false },
      ],
      '@typescript-eslint/no-confusing-void-expression': 'off',
      // Texts are looked at by code point here, as the standards they follow do.
      '@typescript-eslint/no-misused-spread': 'off',
      '@typescript-eslint/no-base-to-string': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-extraneous-class': ['error', { allowWithDecorator: true }],
      '@typescript-eslint/unified-signatures': 'off',
      '@typescript-eslint/no-unnecessary-type-parameters': 'off',
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }],
      // It counts `?.` and `??` as branches too, and a switch once, as it is a table.
      complexity: ['error', { max: 20, variant: 'modified' }],
      'no-restricted-syntax': ['error', ZOD_AS_A_WHOLE],
      '@typescript-eslint/no-unsafe-unary-minus': 'off',
      '@typescript-eslint/use-unknown-in-catch-callback-variable': 'off',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: never(...OF_CORE),
  },
  {
    files: ['contract/src/**/*.ts'],
    rules: never(forbid(['@ivory/server', '@ivory/demo', '@ivory/standins/*'], 'The contract knows core only.')),
  },
  {
    files: ['server/src/**/*.ts'],
    ignores: ['**/*.spec.ts', 'server/src/testing/**'],
    rules: {
      ...never(...OF_SERVER),
      'no-restricted-syntax': ['error', ZOD_AS_A_WHOLE, ONE_CONNECTION, REFUSES_IN_WORDS],
    },
  },
  { files: ['standins/src/**/*.ts'], rules: never(PARTS, BEHIND_THE_DOOR) },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      ...never(...OF_WEB),
      '@typescript-eslint/consistent-type-imports': 'off',
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'ivory', style: 'kebab-case' }],
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
    },
  },
  // Their functions are lists: of routes with their pages, and of figures.
  { files: ['standins/src/**/*.ts', 'bench/src/**/*.ts'], rules: { 'max-lines-per-function': 'off' } },
  { files: ['server/src/startServer.ts'], rules: { 'no-restricted-imports': 'off' } },
  { files: ['web/src/frame/routes.ts'], rules: { 'no-restricted-imports': 'off' } },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    // NG-ZORRO's checkboxes put their box inside the label themselves.
    rules: { '@angular-eslint/template/label-has-associated-control': 'off' },
  },
  {
    files: ['**/*.spec.ts'],
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      'max-lines': 'off',
      'max-lines-per-function': 'off',
      complexity: 'off',
    },
  },
);
