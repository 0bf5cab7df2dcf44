<script setup lang="ts">
import { computed } from 'vue';
import type { AimFigure } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { decibels, parseNumber } from '@/format';
import { rules } from '@/rules';
import { useHeadroom } from '@/stores/headroom';

/** Which figure of the main should be where. */
const headroom = useHeadroom();

const aims = computed(() => rules().aims);
const unit = computed(() => aims.value.find(({ figure }) => figure === headroom.aim.figure)?.unit ?? '');

function setAim(event: Event): void {
    const input = event.target as HTMLInputElement;
    const level = parseNumber(input.value);
    if (typeof level === 'number') {
        headroom.aim = {
            ...headroom.aim,
            level: Math.max(rules().aimRange.lowest, Math.min(rules().aimRange.highest, level)),
        };
    }
    input.value = decibels(headroom.aim.level);
}

function setFigure(figure: AimFigure): void {
    headroom.aim = { figure, level: aims.value.find((one) => one.figure === figure)?.usual ?? -6 };
}
</script>

<template>
    <span class="aim"
        ><span class="soft">aim:</span>
        <ChoiceMenu
            label="Figure to aim for"
            :model-value="headroom.aim.figure"
            :items="aims.map((one) => ({ value: one.figure, name: one.label }))"
            @update:model-value="setFigure"
        />
        <input
            class="figure"
            aria-label="Level to aim for"
            :value="decibels(headroom.aim.level)"
            @change="setAim"
            @keydown.stop
        />
        <span class="soft">{{ unit }}</span>
    </span>
</template>

<style scoped>
.aim .choice-menu {
    width: 130px;
    margin-left: 6px;
}

.aim input.figure {
    width: 58px;
    margin: 0 4px;
    padding: 2px 6px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--sheet);
    text-align: right;
}
</style>
