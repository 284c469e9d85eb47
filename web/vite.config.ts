import { fileURLToPath, URL } from 'node:url'
import tailwindcss from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import { guide } from './guide.ts'

export default defineConfig({
  plugins: [guide(), vue(), tailwindcss()],
  // of vue-i18n we use its functions alone
  define: {
    __VUE_I18N_FULL_INSTALL__: false,
    __VUE_I18N_LEGACY_API__: false,
    __INTLIFY_PROD_DEVTOOLS__: false,
  },
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    // our policy allows no data: fonts and no inline code
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    chunkSizeWarningLimit: 800,
  },
  server: {
    // the guide's pages stand beside this module
    fs: { allow: ['..'] },
    proxy: { '/api': `http://127.0.0.1:${process.env.WARDEN_PORT ?? 8420}` },
  },
})
