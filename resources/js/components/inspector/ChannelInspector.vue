<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { Channel } from '@/api/types';
import { useSession } from '@/stores/session';
import BoxSweep from '@/components/paths/BoxSweep.vue';
import ClickSection from './ClickSection.vue';
import CueSection from './CueSection.vue';
import FreezeSection from './FreezeSection.vue';
import InputSection from './InputSection.vue';
import LevelsSection from './LevelsSection.vue';
import MacrosSection from './MacrosSection.vue';
import RecordSection from './RecordSection.vue';
import RoutingSection from './RoutingSection.vue';
import SendsSection from './SendsSection.vue';
import SoundSection from './SoundSection.vue';
import SoundSwitches from './SoundSwitches.vue';

/** The channels that are selected, in groups: sound, row and routing, sends, levels. */
const props = defineProps<{ channel: Channel; along: string[] }>();

const session = useSession();
const name = ref(props.channel.name);
const field = ref<HTMLInputElement>();

const KINDS = { track: 'Track', note: 'Note', group: 'Group', return: 'Return', cue: 'Cue', main: 'Main' };
const many = computed(() => props.along.length > 1);
const about = computed(() => {
    const alike = session.channels.filter((other) => other.kind === props.channel.kind);
    const index = alike.findIndex((other) => other.id === props.channel.id);
    return props.channel.kind === 'main'
        ? 'Main'
        : `${KINDS[props.channel.kind]} ${index + 1} · ${props.channel.width}`;
});

watch([() => props.channel.id, () => props.channel.name], () => (name.value = props.channel.name));

function rename(): void {
    const wanted = name.value.trim();
    if (wanted !== '' && wanted !== props.channel.name) {
        void session.edit({ type: 'rename-channel', channel: props.channel.id, name: wanted });
    } else {
        name.value = props.channel.name;
    }
    field.value?.blur();
}
</script>

<template>
    <div class="inspector">
        <header v-if="many">
            <h2>{{ along.length }} channels</h2>
            <span class="soft">moves keep their relation</span>
        </header>
        <header v-else>
            <input
                ref="field"
                v-model="name"
                class="title"
                aria-label="Name of the channel"
                @keydown.enter="rename"
                @keydown.stop
                @blur="rename"
            />
            <span class="soft kind">{{ about }}</span>
        </header>
        <SoundSection :channel="channel" :along="along" />
        <InputSection v-if="!many" :channel="channel" />
        <CueSection v-if="!many && channel.kind === 'cue'" :channel="channel" />
        <ClickSection v-if="!many && channel.kind === 'cue'" :channel="channel" />
        <MacrosSection v-if="!many" :channel="channel" />
        <SoundSwitches v-if="!many" :channel="channel" />
        <RoutingSection :channel="channel" :along="along" />
        <RecordSection v-if="!many" :channel="channel" />
        <FreezeSection :channel="channel" :along="along" />
        <SendsSection :channel="channel" :along="along" />
        <LevelsSection v-if="!many" :channel="channel" />
        <BoxSweep v-if="!many" :key="channel.id" :channel="channel" />
    </div>
</template>

<style scoped>
.title {
    flex: 1;
    min-width: 120px;
    margin: 0 0 0 -5px;
    padding: 1px 4px;
    border: 1px solid transparent;
    border-radius: 4px;
    background: none;
    font-size: 15px;
    font-weight: 600;
}

.title:hover,
.title:focus {
    border-color: var(--contour);
}

.kind {
    white-space: nowrap;
}
</style>
