<script setup lang="ts">
import { computed } from 'vue';
import { useListening } from '@/stores/listening';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { useSurvey } from '@/stores/survey';
import StatusChip from '@/components/paths/StatusChip.vue';

/** Time the engine needs for a second of sound, of one core; a press lists the channels that need most. */
const session = useSession();
const listening = useListening();
const survey = useSurvey();
const selection = useSelection();

const result = computed(() => survey.state?.result ?? null);
const load = computed(() => (listening.isPlaying ? listening.load : (result.value?.load ?? null)));
const text = computed(() => (load.value === null ? '·' : `${Math.round(load.value * 100)} %`));
const isOverloaded = computed(() => listening.isPlaying && (listening.load ?? 0) > 1);
const heaviest = computed(() => {
    const loads = listening.isPlaying ? listening.loads : load.value === null ? {} : (result.value?.loads ?? {});
    return session.channels
        .map((channel) => ({ channel, load: loads[channel.id] ?? 0 }))
        .filter((one) => one.load >= 0.0005)
        .sort((a, b) => b.load - a.load)
        .slice(0, 10);
});
const most = computed(() => heaviest.value[0]?.load ?? 1);
</script>

<template>
    <el-popover trigger="click" placement="bottom-end" :width="300">
        <template #reference>
            <StatusChip
                :value="text"
                label="engine"
                :tone="isOverloaded ? 'clips' : null"
                data-chip="load"
                title="Time the engine needs for a second of sound, of one core. Press to see what needs it"
            />
        </template>
        <div class="loads" data-loads>
            <p class="hint">
                {{
                    heaviest.length === 0
                        ? 'Nothing plays here yet, so nothing is needed.'
                        : `Of one core, ${listening.isPlaying ? 'now' : 'measured over the whole length'}:`
                }}
            </p>
            <button
                v-for="one in heaviest"
                :key="one.channel.id"
                class="plain one"
                @click="selection.selectChannel(one.channel.id, $event, [one.channel.id])"
            >
                <span>{{ one.channel.name }}</span
                ><span class="rail"><i :style="{ width: `${(one.load / most) * 100}%` }" /></span
                ><span class="figure">{{ (one.load * 100).toFixed(1) }} %</span>
            </button>
        </div>
    </el-popover>
</template>

<style scoped>
.loads p {
    margin: 0 0 6px;
}

.one {
    display: grid;
    grid-template-columns: 112px 1fr 52px;
    gap: 8px;
    align-items: center;
    width: 100%;
    padding: 3px 0;
    border-top: 1px solid var(--contour);
}

.one .figure {
    text-align: right;
}

.rail {
    height: 6px;
    background: var(--paper);
}

.rail i {
    display: block;
    height: 100%;
    background: var(--water);
}
</style>
