import js from '@eslint/js'
import prettier from '@vue/eslint-config-prettier/skip-formatting'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

export default tseslint.config(
  { ignores: ['dist', 'src/api/schema.generated.ts', 'public'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  { rules: { 'no-undef': 'off', 'vue/multi-word-component-names': 'off', 'vue/require-default-prop': 'off' } },
  prettier,
)
