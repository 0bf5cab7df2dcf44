import { shallowRef } from 'vue';
import { api } from '@/api/client';
import type { Rules } from '@/api/types';

const known = shallowRef<Rules | null>(null);

/** Rules and laws of the server; they are loaded before anything is drawn. */
export function rules(): Rules {
    if (!known.value) {
        throw new Error('The rules are not loaded yet.');
    }
    return known.value;
}

export function setRules(found: Rules): void {
    known.value = found;
}

export async function loadRules(): Promise<void> {
    setRules(await api.get<Rules>('rules'));
}
