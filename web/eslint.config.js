import i18n from '@intlify/eslint-plugin-vue-i18n'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import typescript from 'typescript-eslint'

export default typescript.config(
  { ignores: ['dist', 'src/api/generated'] },
  ...typescript.configs.recommended,
  ...vue.configs['flat/recommended'],
  ...i18n.configs.recommended,
  {
    settings: { 'vue-i18n': { localeDir: './src/locales/*.json', messageSyntaxVersion: '^11.0.0' } },
    rules: {
      '@intlify/vue-i18n/no-raw-text': [
        'error',
        {
          ignorePattern: '^([^\\p{L}]*|https://)$',
          ignoreNodes: ['kbd'],
          ignoreText: ['Jundle'],
          attributes: {
            '/.+/': [
              'aria-label',
              'alt',
              'label',
              'title',
              'text',
              'header',
              'hint',
              'hollow',
              'placeholder',
              'still',
            ],
          },
        },
      ],
      '@intlify/vue-i18n/no-missing-keys': 'error',
      '@intlify/vue-i18n/no-missing-keys-in-other-locales': 'error',
      '@intlify/vue-i18n/no-unused-keys': [
        'error',
        {
          extensions: ['.ts', '.vue'],
          ignores: ['/^counts\\./', '/^parts\\./', '/^rates\\./', '/^pictures\\.dragThe/'],
        },
      ],
    },
  },
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
