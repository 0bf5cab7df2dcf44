<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, ProcessorInsert } from '@/api/types';
import { TAP_NAMES } from '@/format';
import { useSession } from '@/stores/session';

/** What an insert listens to: the sound it works on, or a tap of another channel. */
const props = defineProps<{ channel: Channel; insert: ProcessorInsert }>();

const session = useSession();

const others = computed(() => session.tapTargets(props.channel));

function listen(channel: string, tap: string): void {
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
            <select
                aria-label="Listens to"
                :value="insert.sidechain?.channel ?? ''"
                @change="listen(($event.target as HTMLSelectElement).value, insert.sidechain?.tap ?? 'pre-fader')"
            >
                <option value="">its own sound</option>
                <option
                    v-for="other in others"
                    :key="other.channel.id"
                    :value="other.channel.id"
                    :disabled="other.isLoop"
                >
                    {{ other.channel.name }}{{ other.isLoop ? ' (would loop)' : '' }}
                </option>
            </select>
            <select
                v-if="insert.sidechain"
                aria-label="Listens at"
                :value="insert.sidechain.tap"
                @change="listen(insert.sidechain?.channel ?? '', ($event.target as HTMLSelectElement).value)"
            >
                <option v-for="(words, tap) in TAP_NAMES" :key="tap" :value="tap">{{ words }}</option>
            </select>
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

select {
    min-width: 0;
    padding: 2px 4px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--sheet);
}
</style>
