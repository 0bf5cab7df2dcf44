<script setup lang="ts">
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import SwitchRow from '@/components/controls/SwitchRow.vue';
import { useListening } from '@/stores/listening';

/** How a recording begins and ends: bars before it, and only inside the loop region. */
const listening = useListening();

const BARS = [
    { value: 0, name: 'none' },
    { value: 1, name: '1 bar' },
    { value: 2, name: '2 bars' },
];
</script>

<template>
    <div class="setting">
        <span>Count-in</span>
        <ChoiceMenu
            label="Count-in"
            data-count-in
            :model-value="listening.countIn"
            :items="BARS"
            @update:model-value="(bars) => (listening.countIn = bars)"
        />
    </div>
    <SwitchRow
        name="Click"
        :on="listening.click"
        about="On each beat while it plays, where you listen; not part of the session"
        data-click
        @change="listening.click = !listening.click"
    />
    <SwitchRow
        v-if="listening.loop"
        name="Only in the loop region"
        :on="listening.isPunching"
        about="Punches in and out: plays up to the region, records inside it, and goes on"
        data-punch
        @change="listening.isPunching = !listening.isPunching"
    />
</template>
