<script setup lang="ts">
import type { HardwareInsert, ProcessorInsert } from '@/api/types';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import { useSession } from '@/stores/session';

/** How much of an insert is heard beside what goes in, in per cent. */
withDefaults(defineProps<{ insert: HardwareInsert | ProcessorInsert; usual?: number }>(), { usual: 1 });

const session = useSession();
</script>

<template>
    <div class="setting mix" data-parameter="mix">
        <span>Mix</span>
        <LyingSlider
            :model-value="Math.round(insert.mix * 1000) / 10"
            :min="0"
            :max="100"
            :default="100 * usual"
            :step="1"
            label="Mix"
            :text="`${Math.round(insert.mix * 100)} %`"
            @change="
                (next, gesture) => session.edit({ type: 'set-mix', insert: insert.id, mix: (next ?? 0) / 100 }, gesture)
            "
        >
            <template #default="{ value: now }">{{ Math.round(now ?? 0) }} %</template>
        </LyingSlider>
    </div>
</template>

<style scoped>
.mix {
    margin-top: 4px;
    border-top: 1px solid var(--contour);
}
</style>
