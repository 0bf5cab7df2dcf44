<script setup lang="ts">
import { ElMessageBox } from 'element-plus';
import { computed, onMounted, ref, watch } from 'vue';
import { api } from '@/api/client';
import type { ParameterValue, Preset, ProcessorInsert, ProcessorSpec } from '@/api/types';
import { tellRefusal } from '@/stores/notices';
import { useSession } from '@/stores/session';

/** Settings under names: take one, save one. */
const props = defineProps<{ insert: ProcessorInsert; spec: ProcessorSpec }>();

const session = useSession();
const presets = ref<Preset[]>([]);

/** What differs from the defaults, in one order, so that two settings can be compared. */
function key(parameters: Record<string, ParameterValue>): string {
    return JSON.stringify(props.spec.parameters.map((parameter) => parameters[parameter.id] ?? parameter.default));
}

const current = computed(() => {
    const wanted = key(props.insert.parameters);
    if (wanted === key({})) {
        return 'Default';
    }
    return presets.value.find((preset) => key(preset.parameters) === wanted)?.name ?? 'Own setting';
});

async function load(): Promise<void> {
    try {
        presets.value = await api.get<Preset[]>(`presets?processor=${props.spec.id}`);
    } catch (error) {
        tellRefusal(error);
    }
}

function take(name: string, parameters: Record<string, ParameterValue>): void {
    void session.edit({ type: 'set-parameters', insert: props.insert.id, parameters, preset: name });
}

async function save(): Promise<void> {
    try {
        const { value } = await ElMessageBox.prompt('Name of the preset', 'Save preset', {
            confirmButtonText: 'Save',
            cancelButtonText: 'Cancel',
            inputPattern: /\S/,
            inputErrorMessage: 'A preset needs a name.',
        });
        await api.post('presets', {
            processor: props.spec.id,
            name: value.trim(),
            parameters: props.insert.parameters,
        });
        await load();
    } catch (error) {
        if (error !== 'cancel' && error !== 'close') {
            tellRefusal(error);
        }
    }
}

async function remove(preset: Preset): Promise<void> {
    try {
        await api.delete(`presets/${preset.id}`);
        await load();
    } catch (error) {
        tellRefusal(error);
    }
}

onMounted(load);
watch(() => props.spec.id, load);
</script>

<template>
    <el-dropdown trigger="click" @command="(run: () => void) => run()">
        <button class="plain name" aria-label="Presets">{{ current }} ▾</button>
        <template #dropdown>
            <el-dropdown-menu>
                <el-dropdown-item :command="() => take('Default', {})">Default</el-dropdown-item>
                <el-dropdown-item
                    v-for="preset in presets"
                    :key="preset.id"
                    :command="() => take(preset.name, preset.parameters)"
                >
                    {{ preset.name }}
                    <button
                        class="plain remove"
                        :aria-label="`Delete preset ${preset.name}`"
                        @click.stop="remove(preset)"
                    >
                        ×
                    </button>
                </el-dropdown-item>
                <el-dropdown-item divided :command="save">Save as preset …</el-dropdown-item>
            </el-dropdown-menu>
        </template>
    </el-dropdown>
</template>

<style scoped>
.name {
    color: var(--soft);
}

.remove {
    margin-left: 14px;
    color: var(--soft);
}
</style>
