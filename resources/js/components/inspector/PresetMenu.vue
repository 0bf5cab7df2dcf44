<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { useSteps } from '@/composables/useSteps';
import { computed } from 'vue';
import type { Preset, ProcessorInsert, ProcessorSpec } from '@/api/types';
import { askName } from '@/askName';
import { useListening } from '@/stores/listening';
import { useSession } from '@/stores/session';
import { useShelf } from '@/stores/shelf';
import { useChipDrag } from '@/components/paths/chipDrag';

/** Settings under names: take one, step through them, go back to the one taken, compare with it, save one. */
const props = defineProps<{ insert: ProcessorInsert; spec: ProcessorSpec }>();

const session = useSession();
const shelf = useShelf();
const listening = useListening();
const drag = useChipDrag();
const plain: Preset = { id: null, processor: '', name: 'Default', use: '', parameters: {} };

const presets = computed(() => [plain, ...(shelf.byProcessor[props.spec.id] ?? [])]);
const uses = computed(() => [...new Set(presets.value.map((preset) => preset.use))]);

/** The preset whose setting this is, as the server found it; the one taken last before others that are alike. */
const same = computed(() => {
    const alike = session.state?.inserts[props.insert.id]?.presets ?? [];
    const name = alike.find((one) => one === props.insert.preset) ?? alike[0];
    return presets.value.find((preset) => preset.name === name) ?? null;
});
/** The preset taken last, if the setting has moved away from it. */
const left = computed(() =>
    same.value ? null : (presets.value.find((preset) => preset.name === (props.insert.preset || 'Default')) ?? null),
);
const current = computed(
    () => same.value?.name ?? (left.value && props.insert.preset ? left.value.name : 'Own setting'),
);
const isCompared = computed(
    () => listening.compare?.kind === 'setting' && listening.compare.id === props.insert.id && left.value !== null,
);

function take(preset: Preset): void {
    void session.edit({
        type: 'set-parameters',
        insert: props.insert.id,
        parameters: preset.parameters,
        preset: preset.name,
    });
}

/** Presets are listened to before the next one is taken. */
const steps = useSteps(3000);
/** Steps made in a row are one step of undo. */
function step(way: 1 | -1): void {
    const list = presets.value;
    const at = list.findIndex((preset) => preset.name === (same.value ?? left.value ?? plain).name);
    const next = list[(Math.max(0, at) + way + list.length) % list.length];
    if (!next) {
        return;
    }
    void session.edit(
        { type: 'set-parameters', insert: props.insert.id, parameters: next.parameters, preset: next.name },
        steps.gesture(),
    );
}

function key(event: KeyboardEvent): void {
    const isTyping = (event.target as HTMLElement | null)?.closest('input, textarea, select');
    if ((event.key === '[' || event.key === ']') && !isTyping && !event.ctrlKey && !event.metaKey) {
        step(event.key === ']' ? 1 : -1);
    }
}
useEventListener(window, 'keydown', key);

function compare(): void {
    const preset = left.value;
    listening.startCompare(
        isCompared.value || !preset
            ? null
            : { kind: 'setting', id: props.insert.id, parameters: preset.parameters, label: preset.name },
    );
}

async function save(): Promise<void> {
    const name = await askName('Save preset', 'Save', 'preset', left.value?.id ? left.value.name : '');
    if (name && (await shelf.save(props.spec.id, name, 'Own', props.insert.parameters))) {
        take({ ...plain, name, parameters: props.insert.parameters });
    }
}

function choose(event: Event): void {
    const files = (event.target as HTMLInputElement).files;
    if (files?.[0]) {
        void shelf.take(files[0]);
    }
    (event.target as HTMLInputElement).value = '';
}
</script>

<template>
    <div class="presets">
        <button class="plain way" aria-label="Preset before" @click="step(-1)">‹</button>
        <el-dropdown trigger="click" max-height="420" @command="(run: () => void) => run()">
            <button class="plain name" aria-label="Presets" :data-preset="current" :data-changed="left !== null">
                {{ current }}<span v-if="left && insert.preset" class="changed"> changed</span> ▾
            </button>
            <template #dropdown>
                <el-dropdown-menu>
                    <template v-for="use in uses" :key="use">
                        <li v-if="use" class="use hint">{{ use }}</li>
                        <el-dropdown-item
                            v-for="preset in presets.filter((one) => one.use === use)"
                            :key="preset.name"
                            :command="() => take(preset)"
                        >
                            <span
                                class="grip"
                                :data-preset-item="preset.name"
                                title="Drag it onto a channel"
                                @pointerdown="
                                    drag.grabLoad(
                                        $event,
                                        {
                                            kind: 'preset',
                                            preset: { ...preset, processor: spec.id },
                                            label: preset.name,
                                        },
                                        () => undefined,
                                    )
                                "
                                >{{ preset.name }}</span
                            >
                            <button
                                v-if="preset.id !== null"
                                class="plain remove"
                                :aria-label="`Delete preset ${preset.name}`"
                                @click.stop="shelf.remove(preset)"
                            >
                                ×
                            </button>
                        </el-dropdown-item>
                    </template>
                    <el-dropdown-item divided :command="save">Save as preset …</el-dropdown-item>
                    <li class="files hint">
                        Own presets:
                        <a href="/api/presets/file" download>save to a file</a>,
                        <label class="take"
                            >take in a file<input
                                class="file"
                                type="file"
                                accept=".json,application/json"
                                aria-label="Take in a file of presets"
                                @change="choose"
                        /></label>
                    </li>
                </el-dropdown-menu>
            </template>
        </el-dropdown>
        <button class="plain way" aria-label="Preset after" @click="step(1)">›</button>
        <template v-if="left && insert.preset">
            <button class="plain" aria-label="Back to the preset" @click="take(left)">revert</button>
            <button class="plain" :class="{ on: isCompared }" :aria-pressed="isCompared" @click="compare">
                compare
            </button>
        </template>
    </div>
</template>

<style scoped>
.presets {
    display: flex;
    margin-left: -5px;
    gap: 4px;
    align-items: baseline;
    min-width: 0;
}

.presets > button {
    color: var(--soft);
}

.presets > button.on {
    color: var(--deep);
    font-weight: 500;
}

.name {
    max-width: 210px;
    overflow-wrap: anywhere;
    text-align: left;
    color: var(--soft);
}

.way {
    padding: 0 5px;
    font-size: 16px;
}

.changed {
    color: var(--brass-text);
}

.use {
    padding: 6px 16px 0;
}

.grip {
    flex: 1;
    touch-action: none;
}

.remove {
    margin-left: 14px;
    color: var(--soft);
}

.files {
    padding: 6px 16px 4px;
    white-space: nowrap;
}

.files a,
.take {
    text-decoration: underline;
    color: var(--ink);
    cursor: pointer;
}

.file {
    position: absolute;
    width: 1px;
    opacity: 0;
}
</style>
