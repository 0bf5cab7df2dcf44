<script setup lang="ts">
import { computed } from 'vue';
import type { Found } from '@/shelves';
import { useHardware } from '@/stores/hardware';
import { useShelf } from '@/stores/shelf';

/** What a line of the finder says of what it found: its name, what it is for, and the facts that decide. */
const props = defineProps<{ entry: Found }>();

const kept = useShelf();
const hardware = useHardware();

const isFavourite = computed(() => props.entry.kind === 'effect' && kept.kept.favourites.includes(props.entry.spec.id));
</script>

<template>
    <template v-if="entry.kind === 'effect'">
        <button
            class="plain star"
            :class="{ on: isFavourite }"
            :aria-label="`${entry.spec.name}: favourite`"
            :aria-pressed="isFavourite"
            title="F2"
            @pointerdown.stop
            @click.stop="kept.toggleFavourite(entry.spec.id)"
        >
            {{ isFavourite ? '◆' : '◇' }}
        </button>
        <span class="name">{{ entry.spec.name }}</span>
        <span class="purpose">{{ entry.spec.purpose }}</span>
        <span class="facts">
            <span
                v-if="entry.spec.levelDependent"
                class="mark"
                title="Level-dependent: it sounds different when fed differently"
                >level</span
            >
            <span v-if="entry.spec.widens" title="Mono in, stereo out">1→2</span>
            <span class="figure cost" title="Per cent of one core for a stereo instance, as measured">{{
                entry.spec.cost === null ? '' : `${entry.spec.cost.toFixed(1)} %`
            }}</span>
        </span>
    </template>
    <template v-else-if="entry.kind === 'preset'">
        <span />
        <span class="name">{{ entry.preset.name }}</span>
        <span class="purpose">{{ entry.spec.name }}, {{ entry.preset.use.toLowerCase() }}</span>
        <span class="facts">preset</span>
    </template>
    <template v-else-if="entry.kind === 'row'">
        <span />
        <span class="name">{{ entry.row.name }}</span>
        <span class="purpose">{{ entry.row.inserts.length }} inserts, {{ entry.row.use.toLowerCase() }}</span>
        <span class="facts"
            >row<button
                v-if="entry.row.id !== null"
                class="plain"
                :aria-label="`Delete row ${entry.row.name}`"
                @pointerdown.stop
                @click.stop="kept.removeRow(entry.row)"
            >
                ×
            </button></span
        >
    </template>
    <template v-else-if="entry.kind === 'loop'">
        <span />
        <span class="name">{{ entry.loop.name }}</span>
        <span class="purpose">{{ hardware.portsOf(entry.loop) }}</span>
        <span class="facts">hardware</span>
    </template>
    <template v-else-if="entry.kind === 'send'">
        <span />
        <span class="name">Send to {{ entry.channel.name }}</span>
        <span class="purpose">{{ entry.about }}</span>
        <span class="facts">{{ entry.channel.kind }}</span>
    </template>
    <template v-else>
        <span />
        <span class="name">{{ entry.split.name }}</span>
        <span class="purpose">{{ entry.split.purpose }}</span>
        <span class="facts">{{ 'stored' in entry.split ? 'own split' : 'split' }}</span>
    </template>
</template>

<style scoped>
.name {
    font-weight: 500;
}

.purpose {
    line-height: 16px;
}

.purpose,
.facts,
.star {
    color: var(--soft);
}

.star.on {
    color: var(--brass-text);
}

.facts {
    display: flex;
    gap: 10px;
    font-size: 12px;
}

.cost {
    width: 44px;
    text-align: right;
}

.mark {
    color: var(--brass-text);
}
</style>
