import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

// TypeScript's and Vue's own rules, with the TypeScript parser inside Vue files.
export default tseslint.config(
  { ignores: ['dist', 'target', 'node_modules', 'src/api/schema.d.ts'] },
  ...tseslint.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
  },
  {
    rules: {
      // Prettier lays out; these would argue with it
      'vue/html-self-closing': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/require-default-prop': 'off',
      'vue/no-v-html': 'error',
      'vue/no-restricted-syntax': [
        'error',
        {
          selector:
            'VElement[rawName=/^(input|textarea)$/] > VStartTag' +
            ':has(VAttribute[key.name.name="bind"][key.argument.name="value"])' +
            ':has(VAttribute[key.name.name="on"][key.argument.name="change"])' +
            ':not(:has(VAttribute[key.name.name="on"][key.argument.name="input"]))' +
            ':not(:has(VAttribute[key.name="type"][value.value=/^(radio|checkbox|range)$/]))',
          message: 'v-shows: a bound value is put back over what is being typed.',
        },
      ],
      '@typescript-eslint/no-non-null-assertion': 'error',
      'no-restricted-properties': [
        'error',
        {
          property: 'setQueryData',
          message: 'useKeep: an older reading is not to take its place.',
        },
      ],
    },
  },
  { files: ['src/shell/keep.ts', '**/*.spec.ts'], rules: { 'no-restricted-properties': 'off' } },
)
