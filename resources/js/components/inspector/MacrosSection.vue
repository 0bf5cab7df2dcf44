<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Channel, Macro, Split } from '@/api/types';
import ActionMenu from '@/components/controls/ActionMenu.vue';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import NameField from '@/components/controls/NameField.vue';
import SwitchRow from '@/components/controls/SwitchRow.vue';
import { controlsOf } from '@/inserts';
import { useMacros } from '@/stores/macros';
import { useSession } from '@/stores/session';
import MacroMoves from './MacroMoves.vue';

/** The macros of a channel, or those of them that move what is in a split: each turned, named, assigned, and with the list of what it moves. */
const props = defineProps<{ channel: Channel; within?: Split }>();

const session = useSession();
const macros = useMacros();

const all = computed(() => props.channel.macros ?? []);
const own = computed(() => {
    const within = props.within ? controlsOf(props.channel, [props.within]).macros?.map(({ id }) => id) : null;
    return within === null
        ? all.value
        : all.value.filter(({ id, moves }) => moves.length === 0 || within?.includes(id));
});
/** The one whose list is open. */
const open = ref<string | null>(null);

const KINDS = [
    { key: 'knob', name: 'A knob', value: false },
    { key: 'switch', name: 'A switch', value: true },
];

function add(isSwitch: boolean): void {
    void session.edit({
        type: 'add-macro',
        channel: props.channel.id,
        name: `Macro ${all.value.length + 1}`,
        switch: isSwitch,
    });
}

function turn(macro: Macro, value: number, gesture: string | null = null): void {
    void session.edit({ type: 'turn-macro', macro: macro.id, value }, gesture);
}
</script>

<template>
    <section data-macros>
        <h3>Macros</h3>
        <div v-for="macro in own" :key="macro.id" class="macro" :data-macro="macro.id">
            <div class="head">
                <NameField
                    :name="macro.name"
                    @rename="(name) => session.edit({ type: 'rename-macro', macro: macro.id, name })"
                />
                <button
                    class="pill"
                    :class="{ on: macros.assigned === macro.id }"
                    :aria-pressed="macros.assigned === macro.id"
                    title="Then move what it is to move, to where it is to be at its end"
                    data-assign
                    @click="macros.assigned === macro.id ? macros.end() : macros.assign(macro)"
                >
                    Assign
                </button>
                <button
                    class="plain"
                    :aria-label="`Remove ${macro.name}`"
                    title="Remove it: what it moves stays where it is"
                    @click="session.edit({ type: 'remove-macro', macro: macro.id })"
                >
                    ×
                </button>
            </div>
            <SwitchRow
                v-if="macro.switch"
                :name="macro.value > 0 ? 'on' : 'off'"
                :on="macro.value > 0"
                @change="turn(macro, macro.value > 0 ? 0 : 1)"
            />
            <LyingSlider
                v-else
                :model-value="Math.round(macro.value * 1000) / 10"
                :min="0"
                :max="100"
                :default="0"
                :step="1"
                :fine="0.1"
                :label="macro.name"
                :text="`${Math.round(macro.value * 100)} %`"
                @change="(to, gesture) => turn(macro, (to ?? 0) / 100, gesture)"
            >
                <template #default="{ value }">{{ Math.round(value ?? 0) }} %</template>
            </LyingSlider>
            <button
                class="plain moves"
                :aria-expanded="open === macro.id"
                data-moves
                @click="open = open === macro.id ? null : macro.id"
            >
                {{ open === macro.id ? '▾' : '▸' }} moves
                {{
                    macro.moves.length === 1
                        ? 'one control'
                        : macro.moves.length === 0
                          ? 'nothing yet'
                          : `${macro.moves.length} controls`
                }}
            </button>
            <MacroMoves v-if="open === macro.id" :channel="channel" :macro="macro" />
        </div>
        <div class="actions">
            <ActionMenu name="New macro" :items="KINDS" data-new-macro @choose="add" />
        </div>
    </section>
</template>

<style scoped>
.macro {
    padding: 4px 0;
    border-bottom: 1px solid var(--contour);
}

.head {
    display: flex;
    gap: 8px;
    align-items: center;
}

.moves {
    min-height: 24px;
    color: var(--soft);
}
</style>
