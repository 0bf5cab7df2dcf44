<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Channel } from '@/api/types';
import { useSession } from '@/stores/session';

/** Copies one send or several, with all that is set on them, to channels that are ticked. */
const props = defineProps<{ sends: string[]; from: Channel; label: string }>();

const session = useSession();
const isOpen = ref(false);
const chosen = ref<string[]>([]);

const targets = computed(() => props.sends.flatMap((id) => session.send(id)?.send.to ?? []));
const channels = computed(() =>
    session.channels
        .filter((channel) => channel.id !== props.from.id && channel.kind !== 'cue' && channel.kind !== 'main')
        .map((channel) => ({
            ...channel,
            isLoop: targets.value.some((to) => session.closesLoop(channel.id, to)),
            has: targets.value.some((to) => channel.sends.some((send) => send.to === to)),
        })),
);
const title = computed(() =>
    props.sends.length === 1
        ? `Copy ${props.from.name} → ${session.channel(targets.value[0] ?? '')?.name ?? ''}`
        : `Copy all sends of ${props.from.name}`,
);

function open(): void {
    chosen.value = [];
    isOpen.value = true;
}

function copy(): void {
    isOpen.value = false;
    void session.edit({ type: 'copy-sends', sends: props.sends, channels: chosen.value });
}
</script>

<template>
    <button class="text-button" @click="open">{{ label }}</button>
    <el-dialog v-model="isOpen" :title="title" width="420px" append-to-body>
        <p class="hint">What a channel already sends to the same place is replaced.</p>
        <label v-for="channel in channels" :key="channel.id" class="one" :class="{ loop: channel.isLoop }">
            <input v-model="chosen" type="checkbox" :value="channel.id" :disabled="channel.isLoop" />
            {{ channel.name }}
            <span class="hint">{{ channel.isLoop ? 'would close a loop' : channel.has ? 'has one' : '' }}</span>
        </label>
        <template #footer>
            <button class="pill" @click="isOpen = false">Cancel</button>
            <button class="pill on" :disabled="chosen.length === 0" @click="copy">
                Copy to {{ chosen.length === 1 ? '1 channel' : `${chosen.length} channels` }}
            </button>
        </template>
    </el-dialog>
</template>

<style scoped>
.one {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 3px 0;
    cursor: pointer;
}

.one .hint {
    margin-left: auto;
}

.loop {
    color: var(--soft);
}
</style>
