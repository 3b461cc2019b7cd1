import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['src/api/schema.d.ts', 'node_modules', 'public'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser } },
  },
  {
    rules: {
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/attributes-order': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/require-default-prop': 'off',
      'no-console': 'error',
      'no-restricted-syntax': ['error', {
        selector: "CallExpression[callee.name='watch'] > ArrowFunctionExpression:first-child > ArrayExpression",
        message: 'A list made anew never equals the one before: watch a list of getters.',
      }],
      'vue/max-len': ['error', { template: 120, code: 1000, ignoreHTMLTextContents: false }],
    },
  },
)
