import { ref } from 'vue';

/** Why what was asked for in the background does not begin, in words; null where it does. Every answer of the server says it. */
export const workWaits = ref<string | null>(null);
