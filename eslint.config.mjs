import js from '@eslint/js';
import templateParser from '@angular-eslint/template-parser';
import templates from '@angular-eslint/eslint-plugin-template';
import tseslint from 'typescript-eslint';

const CODE = ['**/*.{ts,mjs,js}'];

export default tseslint.config(
  { ignores: ['**/node_modules', '**/dist', '**/build', '**/.angular', '.data'] },
  ...[js.configs.recommended, ...tseslint.configs.recommended].map((config) => ({ ...config, files: CODE })),
  {
    files: CODE,
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      'no-undef': 'off',
      eqeqeq: 'error',
    },
  },
  {
    files: ['core/**/*.ts'],
    rules: {
      'no-restricted-syntax': ['error', { selector: 'ExportAllDeclaration', message: 'An index names what it shows.' }],
    },
  },
  {
    files: ['kernel/assembly/**/*.ts'],
    rules: {
      // Its numbers have 64 bits where they are said to, and every variable begins with a value.
      'no-loss-of-precision': 'off',
      'no-useless-assignment': 'off',
    },
  },
  // Controls of the page are Angular Material's, or our own of web/src/app/ui on top of them.
  {
    files: ['web/src/app/**/*.component.ts'],
    processor: templates.processors['extract-inline-html'],
  },
  {
    files: ['web/src/app/**/*.html'],
    ignores: ['web/src/app/ui/**'],
    languageOptions: { parser: templateParser },
    plugins: { '@angular-eslint/template': templates },
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['select', 'progress', 'details', 'textarea', 'option'].map((name) => ({
          selector: `Element[name="${name}"]`,
          message: `Use a component of ui/ or of Angular Material instead of <${name}>.`,
        })),
        {
          selector: 'Element[name="button"]:not(:has(> [name=/^mat/]))',
          message:
            'A button is one of Angular Material (matButton, matIconButton, mat-menu-item, matRipple), or one of ui/.',
        },
        {
          selector: 'Element[name="input"]:not(:has(> [name=/^mat/]))',
          message: 'A field is one of ui/, or has matInput.',
        },
      ],
      '@angular-eslint/template/alt-text': 'error',
      '@angular-eslint/template/no-autofocus': 'error',
      '@angular-eslint/template/valid-aria': 'error',
      '@angular-eslint/template/no-duplicate-attributes': 'error',
    },
  },
);
