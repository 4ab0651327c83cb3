import js from '@eslint/js';
import jsdoc from 'eslint-plugin-jsdoc';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';

// These differ between engines; core brings its own (core/kernel/exact).
const BANNED = [
  'sin',
  'cos',
  'tan',
  'asin',
  'acos',
  'atan',
  'atan2',
  'sinh',
  'cosh',
  'tanh',
  'exp',
  'expm1',
  'log',
  'log2',
  'log10',
  'log1p',
  'pow',
  'cbrt',
  'hypot',
  'random',
];

export default ts.config(
  {
    ignores: [
      'dist',
      'dist-cli',
      'dist-worker',
      'dist-bench',
      '.data',
      '.data-test',
      '.data-unit',
      '.data-faults',
      '.data-bench',
      '.astro',
      'node_modules',
      'demo/truth',
      // Another language with the same ending.
      'core/trace/source',
    ],
  },
  js.configs.recommended,
  ts.configs.recommended,
  {
    languageOptions: { globals: { ...globals.node, ...globals.browser, ...globals.worker } },
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      'no-constant-condition': ['error', { checkLoops: false }],
      'no-undef': 'off',
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['core/**/*.test.ts', 'core/testing/**'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...BANNED.map((property) => ({
          object: 'Math',
          property,
          message: 'differs between engines: use core/kernel/exact',
        })),
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector: "BinaryExpression[operator='**']:not([left.type='Literal'])",
          message: 'a power of anything but a literal differs between engines: use powd or exp2d',
        },
        {
          selector:
            "BinaryExpression[operator='**']:matches([right.type='CallExpression'], [right.raw=/[.]/])",
          message: 'a power by what may be a fraction differs between engines: use powd or exp2d',
        },
      ],
      'no-restricted-globals': ['error', 'document', 'window', 'process', 'Buffer', 'self'],
    },
  },
  {
    files: ['{core,server,web,cli}/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts'],
    plugins: { jsdoc },
    rules: {
      'jsdoc/require-jsdoc': [
        'error',
        {
          publicOnly: { esm: true },
          enableFixer: false,
          contexts: [
            'FunctionDeclaration',
            'ClassDeclaration',
            'TSInterfaceDeclaration',
            'TSTypeAliasDeclaration',
            'TSEnumDeclaration',
            'VariableDeclaration',
          ],
          require: { FunctionDeclaration: false },
        },
      ],
      'jsdoc/require-description': 'error',
    },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
);
