import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['build/', '.data/', 'node_modules/', '**/node_modules/'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/essential'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser } },
  },
  {
    rules: {
      'no-console': 'error',
      'prefer-const': 'error',
      eqeqeq: 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'vue/multi-word-component-names': 'off',
      'vue/no-unused-properties': 'error',
      'vue/no-unused-emit-declarations': 'error',
    },
  },
  { files: ['bench/**', 'faults/main.ts', 'tools/test.ts', 'e2e/screenshots.ts'], rules: { 'no-console': 'off' } },
)
