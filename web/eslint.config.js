import { defineConfigWithVueTs, vueTsConfigs } from '@vue/eslint-config-typescript'
import pluginVue from 'eslint-plugin-vue'

const layout = [
  'html-indent',
  'max-attributes-per-line',
  'singleline-html-element-content-newline',
  'multiline-html-element-content-newline',
  'html-self-closing',
  'html-closing-bracket-newline',
  'first-attribute-linebreak',
]

export default defineConfigWithVueTs(
  { ignores: ['dist', 'dev-dist', 'src/data/api.d.ts', 'src/core/wasm_exec.js', 'node_modules'] },
  pluginVue.configs['flat/recommended'],
  vueTsConfigs.recommendedTypeChecked,
  { rules: Object.fromEntries(layout.map((rule) => [`vue/${rule}`, 'off'])) },
)
