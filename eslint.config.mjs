import angular from '@angular-eslint/eslint-plugin';
import template from '@angular-eslint/eslint-plugin-template';
import templateParser from '@angular-eslint/template-parser';
import prettier from 'eslint-config-prettier';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/',
      '**/dist/',
      '.angular/',
      '.cache/',
      'docs/',
      'data/',
      'web/public/',
    ],
  },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommended, ...tseslint.configs.stylistic, prettier],
    rules: {
      // What the house is used to: beyond it a file or a function wants to come apart.
      'max-lines': ['warn', { max: 400 }],
      complexity: ['warn', { max: 30 }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
      ],
    },
  },
  {
    // The core knows no interface, no network, no files: whatever runs it brings those.
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts', 'core/src/testing/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: [
                'node:*',
                'fs',
                'path',
                '@angular/*',
                '@ngrx/*',
                'rxjs',
                'd3',
                'hono',
                'typeorm',
              ],
              message: 'The core is pure.',
            },
            {
              group: ['@hurrel/server', '@hurrel/web', '**/server/**', '**/web/**'],
              message: 'Imports run towards the core only.',
            },
          ],
        },
      ],
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'localStorage',
        'fetch',
        'performance',
        'Date',
      ],
    },
  },
  {
    // Where sound is computed, loops by index: they make nothing for the collector.
    files: ['core/src/sound/**/*.ts'],
    rules: { '@typescript-eslint/prefer-for-of': 'off' },
  },
  {
    files: ['server/src/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['@angular/*', '@ngrx/*', 'd3', '@hurrel/web', '**/web/src/**'],
              message: 'The server knows no interface.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['web/src/**/*.ts'],
    plugins: { '@angular-eslint': angular },
    processor: template.processors['extract-inline-html'],
    rules: {
      ...angular.configs.recommended.rules,
      '@angular-eslint/component-selector': 'off',
      '@angular-eslint/directive-selector': 'off',
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['node:*', 'typeorm', '**/server/src/**', '../../../../core/**'],
              message: 'The interface reaches the core by its name, and the server by HTTP.',
            },
          ],
        },
      ],
    },
  },
  {
    // Tests run in Node.
    files: ['web/src/**/*.test.ts', 'web/src/testing/**/*.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: ['typeorm', '**/server/src/**'] }],
    },
  },
  {
    files: ['web/src/**/*.html'],
    languageOptions: { parser: templateParser },
    plugins: { '@angular-eslint/template': template },
    rules: {
      ...template.configs.recommended.rules,
      ...template.configs.accessibility.rules,
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: { globals: { process: 'readonly', console: 'readonly' } },
  },
);
