<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import type { ProcessorSpec } from '@/api/types';
import { useShelf } from '@/stores/shelf';

/** In which of one's own folders an effect lies: type part of a name, or a new one; Enter puts it in or takes it out. */
const props = defineProps<{ spec: ProcessorSpec }>();
const emit = defineEmits<{ close: [] }>();

const shelf = useShelf();
const text = ref('');
const chosen = ref(0);
const field = ref<HTMLInputElement>();

const typed = computed(() => text.value.trim());
const entries = computed(() => {
    const folders = shelf.kept.folders
        .filter((folder) => folder.name.toLowerCase().includes(typed.value.toLowerCase()))
        .map((folder) => ({ name: folder.name, isIn: folder.processors.includes(props.spec.id), isNew: false }));
    const isThere = folders.some((folder) => folder.name.toLowerCase() === typed.value.toLowerCase());
    return typed.value === '' || isThere ? folders : [...folders, { name: typed.value, isIn: false, isNew: true }];
});

async function toggle(name: string | undefined): Promise<void> {
    if (name) {
        await shelf.toggleInFolder(name, props.spec.id);
        text.value = '';
        chosen.value = Math.max(
            0,
            shelf.kept.folders.findIndex((folder) => folder.name === name),
        );
    }
    field.value?.focus();
}

function key(event: KeyboardEvent): void {
    const actions: Record<string, () => void> = {
        ArrowDown: () => (chosen.value = Math.min(entries.value.length - 1, chosen.value + 1)),
        ArrowUp: () => (chosen.value = Math.max(0, chosen.value - 1)),
        Enter: () => void toggle(entries.value[chosen.value]?.name),
        Escape: () => emit('close'),
        F4: () => emit('close'),
    };
    event.stopPropagation();
    if (actions[event.key]) {
        event.preventDefault();
        actions[event.key]?.();
    }
}

onMounted(() => field.value?.focus());
</script>

<template>
    <div class="picker" role="dialog" :aria-label="`Folders of ${spec.name}`" @keydown="key">
        <p>
            Folders of <strong>{{ spec.name }}</strong>
        </p>
        <input
            ref="field"
            v-model="text"
            class="field"
            maxlength="60"
            placeholder="A folder, or a new name"
            aria-label="Folder"
            @input="chosen = 0"
        />
        <ul role="listbox" aria-label="Folders">
            <li
                v-for="(entry, index) in entries"
                :key="entry.name"
                role="option"
                :aria-selected="index === chosen"
                :class="{ chosen: index === chosen }"
                :data-folder="entry.name"
                @pointermove="chosen = index"
                @click="toggle(entry.name)"
            >
                <span>{{ entry.isIn ? '◆' : '◇' }}</span
                >{{ entry.isNew ? `New: ${entry.name}` : entry.name }}
            </li>
            <li v-if="entries.length === 0" class="none">No folders yet. Type a name and press Enter.</li>
        </ul>
        <p class="hint">Enter puts in or takes out · Esc back</p>
    </div>
</template>

<style scoped>
.picker {
    position: absolute;
    right: 16px;
    top: 12px;
    z-index: 2;
    width: 270px;
    padding: 10px 0 0;
    border: 1px solid var(--contour);
    border-radius: 6px;
    background: var(--sheet);
    box-shadow: 0 6px 24px rgb(0 0 0 / 18%);
}

p {
    margin: 0;
    padding: 0 14px 6px;
}

.field {
    width: calc(100% - 28px);
    margin: 0 14px;
    padding: 4px 0;
    border: 0;
    border-bottom: 1px solid var(--contour);
    outline: 0;
    background: none;
}

ul {
    max-height: 200px;
    margin: 0;
    padding: 6px 0;
    list-style: none;
    overflow: auto;
}

li {
    display: flex;
    gap: 8px;
    padding: 4px 14px;
    cursor: pointer;
}

li.chosen {
    background: var(--shoal-wash);
}

li.none {
    color: var(--soft);
    cursor: default;
}
</style>
