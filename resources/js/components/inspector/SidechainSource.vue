<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, ProcessorInsert, TapName } from '@/api/types';
import { channelChoices, TAP_CHOICES } from '@/choices';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { useSession } from '@/stores/session';

/** What an insert listens to: the sound it works on, or a tap of another channel. */
const props = defineProps<{ channel: Channel; insert: ProcessorInsert }>();

const session = useSession();

const sources = computed(() => [
    { value: '', name: 'its own sound' },
    ...channelChoices(session.tapTargets(props.channel)),
]);

function listen(channel: string, tap: TapName): void {
    void session.edit({
        type: 'set-sidechain',
        insert: props.insert.id,
        sidechain: channel === '' ? null : { channel, tap },
    });
}
</script>

<template>
    <div class="sidechain" data-sidechain-source>
        <span>Listens to</span>
        <span class="choices">
            <ChoiceMenu
                label="Listens to"
                :model-value="insert.sidechain?.channel ?? ''"
                :items="sources"
                @update:model-value="(channel) => listen(channel, insert.sidechain?.tap ?? 'pre-fader')"
            />
            <ChoiceMenu
                v-if="insert.sidechain"
                label="Listens at"
                :model-value="insert.sidechain.tap"
                :items="TAP_CHOICES"
                @update:model-value="(tap) => listen(insert.sidechain?.channel ?? '', tap)"
            />
        </span>
    </div>
</template>

<style scoped>
.sidechain {
    display: grid;
    grid-template-columns: 84px 1fr;
    align-items: center;
    min-height: 29px;
}

.choices {
    display: flex;
    justify-content: flex-end;
    gap: 4px;
    min-width: 0;
}
</style>
