import vue from '@vitejs/plugin-vue';
import laravel from 'laravel-vite-plugin';
import { defineConfig } from 'vite';

export default defineConfig({
    plugins: [laravel({ input: ['resources/css/hafen.css', 'resources/js/main.ts', 'resources/js/performer.ts'] }), vue()],
    resolve: { alias: { '@': '/resources/js' } },
    build: { chunkSizeWarningLimit: 1500 },
});
