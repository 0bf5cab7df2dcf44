import '@fontsource/ibm-plex-mono/500.css';
import '@fontsource/ibm-plex-sans/400.css';
import '@fontsource/ibm-plex-sans/600.css';
import { createApp } from 'vue';
import PerformerPage from './performer/PerformerPage.vue';

createApp(PerformerPage).mount('#performer');
