<script setup lang="ts">
import { computed } from 'vue';
import type { Channel } from '@/api/types';
import { usePilot } from '@/stores/pilot';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { usePathPointing } from '@/composables/usePathPointing';

/** The name of a channel with the marks that say something about it: folded members, advice, automation, combs. */
const props = defineProps<{ channel: Channel; order: string[] }>();

const session = useSession();
const selection = useSelection();
const screen = useScreen();
const pilot = usePilot();

const id = computed(() => props.channel.id);
const members = computed(() =>
    props.channel.kind === 'group' ? session.channels.filter((other) => other.output === id.value).length : 0,
);
const isFolded = computed(() => screen.isGroupFolded(id.value));
const advice = computed(() => pilot.of(id.value));
const comb = computed(() => session.state?.combs.find((entry) => entry.channel === id.value));
const lanes = computed(() => props.channel.automation?.length ?? 0);
const point = usePathPointing(() => id.value);
</script>

<template>
    <span class="heading">
        <button
            v-if="members > 0"
            class="fold plain"
            :aria-expanded="!isFolded"
            :aria-label="`${isFolded ? 'Unfold' : 'Fold'} ${channel.name}`"
            :title="isFolded ? `Show its ${members} channels` : `Fold its ${members} channels away`"
            @click.stop="screen.toggleGroup(id)"
        >
            {{ isFolded ? '▸' : '▾' }}
        </button>
        <span class="words">
            <button
                class="name plain"
                :title="`${channel.name}: stay here to see its path`"
                @click.stop="selection.selectChannel(id, $event, order)"
                @pointerenter="point(true)"
                @pointerleave="point(false)"
                @focus="point(($event.target as HTMLElement).matches(':focus-visible'))"
                @blur="point(false)"
            >
                {{ channel.name }}
            </button>
            <span v-if="isFolded || advice.length > 0 || lanes > 0 || comb" class="marks">
                <span v-if="isFolded" class="count hint">{{ members }} in it</span>
                <button
                    v-if="advice.length > 0"
                    class="noted plain"
                    :class="{ severe: advice.some((one) => one.severity === 'severe') }"
                    :aria-label="`${advice.length} pilot ${advice.length === 1 ? 'note' : 'notes'} on ${channel.name}`"
                    :title="advice.map((one) => one.text).join('\n')"
                    @click.stop="pilot.isShown = true"
                >
                    {{ advice.length }}
                </button>
                <button
                    v-if="lanes > 0"
                    class="lanes plain"
                    :aria-label="`Automation of ${channel.name}`"
                    :aria-expanded="screen.lanes[id] !== undefined"
                    :title="`Automated: ${lanes} ${lanes === 1 ? 'lane' : 'lanes'}. Press to see`"
                    @click.stop="screen.toggleLane(id)"
                >
                    ∿
                </button>
                <span
                    v-if="comb"
                    class="comb"
                    :title="`Not lined up: ${Math.abs(comb.samples)} samples ${comb.samples > 0 ? 'late' : 'early'} at ${comb.where}. Equal sound cancels at ${Math.round(comb.notch)} Hz first.`"
                    >⋎ {{ comb.notch >= 1000 ? `${(comb.notch / 1000).toFixed(1)}k` : Math.round(comb.notch) }}</span
                >
            </span>
        </span>
    </span>
</template>

<style scoped>
.heading {
    display: flex;
    align-items: center;
    gap: 3px;
    min-width: 0;
    /* A name of many lines makes its row higher. */
    min-height: var(--row-height);
    padding-top: calc(2 * var(--axis) - var(--row-height));
}

.words {
    display: flex;
    flex-direction: column;
    min-width: 0;
    line-height: 15px;
}

.compact .words {
    flex-flow: row wrap;
    align-items: center;
    gap: 0 4px;
    line-height: 14px;
}

.name {
    font-size: 13px;
    font-weight: 600;
    text-align: left;
    overflow-wrap: anywhere;
}

.compact .name {
    font-size: 13px;
}

.fold {
    flex: none;
    width: 12px;
    color: var(--soft);
}

.marks {
    display: flex;
    align-items: center;
    gap: 4px;
    height: 16px;
}

.count {
    font-size: 12px;
}

.noted {
    flex: none;
    width: 15px;
    height: 15px;
    border-radius: 8px 8px 8px 2px;
    background: var(--brass);
    color: var(--paper);
    font-size: 12px;
    font-weight: 600;
    line-height: 15px;
    text-align: center;
}

.noted.severe {
    border-radius: 2px;
    background: var(--buoy);
}

.lanes {
    flex: none;
    color: var(--deep);
    font-weight: 600;
}

.comb {
    flex: none;
    font-size: 12px;
    color: var(--brass-text);
}
</style>
