<script setup lang="ts">
import type { Channel } from '@/api/types';
import { askName } from '@/askName';
import ClippedMark from '@/components/inputs/ClippedMark.vue';
import { useSession } from '@/stores/session';

/** Clips that are kept beside those a track plays: played instead, kept anew, let go. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();

async function keep(): Promise<void> {
    const name = await askName('Keep as a version', 'Keep', 'version');
    if (name) {
        await session.edit({ type: 'keep-version', channel: props.channel.id, name });
    }
}

function act(type: 'use-version' | 'remove-version', version: string): void {
    void session.edit({ type, channel: props.channel.id, version });
}
</script>

<template>
    <div data-versions>
        <p v-for="version in channel.versions ?? []" :key="version.id" class="version">
            <span>{{ version.name }}<ClippedMark :clips="version.clips" /></span>
            <button
                class="plain fix"
                title="Plays it; what it plays now is kept in its place"
                @click="act('use-version', version.id)"
            >
                Use
            </button>
            <button class="plain fix" @click="act('remove-version', version.id)">Remove</button>
        </p>
        <button class="text-button keep" @click="keep">Keep as a version …</button>
    </div>
</template>

<style scoped>
.version {
    display: flex;
    gap: 10px;
    margin: 2px 0;
}

.version span {
    flex: 1;
    overflow-wrap: anywhere;
}

.keep {
    margin-left: -8px;
}
</style>
