<script setup lang="ts">
import type { Channel } from '@/api/types';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import SwitchRow from '@/components/controls/SwitchRow.vue';
import { decibels } from '@/format';
import { useSession } from '@/stores/session';

/** The click on each beat that only this cue hears. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();

const USUAL = -12;

function set(click: number | null, gesture?: string): void {
    void session.edit({ type: 'set-click', cue: props.channel.id, click }, gesture ?? null);
}
</script>

<template>
    <section data-click>
        <SwitchRow
            name="Click"
            :on="channel.click !== undefined"
            about="On each beat, higher on the first of four; heard in this cue alone, in a count-in too"
            @change="set(channel.click === undefined ? USUAL : null)"
        />
        <div v-if="channel.click !== undefined" class="setting">
            <span>Level of the click</span>
            <LyingSlider
                :model-value="channel.click"
                :min="-60"
                :max="0"
                :default="USUAL"
                :step="1"
                :fine="0.1"
                label="Level of the click"
                :text="`${decibels(channel.click, true)} dBFS`"
                @change="(click, gesture) => click !== null && set(click, gesture)"
            />
        </div>
    </section>
</template>
