import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import typescript from 'typescript-eslint'

export default typescript.config(
  { ignores: ['dist', 'src/api/generated'] },
  ...typescript.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: typescript.parser } },
  },
  {
    rules: {
      'vue/no-v-html': 'error',
      'vue/component-api-style': ['error', ['script-setup']],
      'vue/define-props-declaration': ['error', 'type-based'],
      'vue/define-emits-declaration': ['error', 'type-based'],
      'vue/block-order': ['error', { order: ['script', 'template', 'style'] }],
    },
  },
  prettier,
)
