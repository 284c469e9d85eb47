import { ref } from 'vue'

type Theme = 'light' | 'dark'

const stored = localStorage.getItem('warden-theme')
const preferred = matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'

/** The theme in force; kept in this browser. */
export const theme = ref<Theme>(stored === 'light' || stored === 'dark' ? stored : preferred)

function apply() {
  document.documentElement.dataset.theme = theme.value
}
apply()

export function toggleTheme() {
  theme.value = theme.value === 'dark' ? 'light' : 'dark'
  localStorage.setItem('warden-theme', theme.value)
  apply()
}
