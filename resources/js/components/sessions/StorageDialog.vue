<script setup lang="ts">
import { ElMessageBox } from 'element-plus';
import { computed, watch } from 'vue';
import type { StoredMedia } from '@/api/types';
import { size } from '@/format';
import StorageRow from './StorageRow.vue';
import { useSession } from '@/stores/session';
import { useStorage } from '@/stores/storage';

/** What lies on the disk: sessions, recordings, captured audio, renders; how large, used by what, and what can go. */
const open = defineModel<boolean>({ required: true });

const storage = useStorage();
const session = useSession();
const contents = computed(() => storage.contents);
const total = computed(() => Math.max(1, storage.sum(storage.parts)));
const revisions = (count: number) => `${count} ${count === 1 ? 'revision' : 'revisions'}`;

watch(open, (isOpen) => isOpen && void storage.load());

function about(media: StoredMedia): string {
    if (media.status === 'preparing') {
        return 'being prepared';
    }
    if (media.status === 'failed') {
        return media.message ?? 'could not be read';
    }
    const seconds = Math.round((media.frames ?? 0) / (media.sampleRate ?? 48000));
    return [
        `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`,
        media.sampleRate ? `${media.sampleRate / 1000} kHz` : '',
        media.channels === 1 ? 'mono' : media.channels === 2 ? 'stereo' : `${media.channels} channels`,
        media.unreadable > 0 ? `${media.unreadable} samples are no numbers` : '',
    ]
        .filter(Boolean)
        .join(', ');
}

const day = (at: string) =>
    new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short', year: 'numeric' });

async function removeSession(id: number, name: string, count: number): Promise<void> {
    try {
        await ElMessageBox.confirm(
            `${name} goes with ${revisions(count)} and its renders. This cannot be undone; its recordings stay.`,
            'Remove a session',
            { confirmButtonText: `Remove ${name}`, cancelButtonText: 'Keep it' },
        );
    } catch {
        return;
    }
    await storage.remove(`sessions/${id}`);
    await session.list();
}
</script>

<template>
    <el-dialog v-model="open" title="Storage" width="860px" class="storage">
        <div v-if="contents" class="contents" :aria-busy="storage.isBusy">
            <div class="bar" aria-hidden="true">
                <span
                    v-for="(part, index) in storage.parts"
                    :key="part.name"
                    :class="`part part-${index}`"
                    :style="{ width: `${(100 * part.bytes) / total}%` }"
                ></span>
            </div>
            <p class="legend">
                <span v-for="(part, index) in storage.parts" :key="part.name">
                    <i :class="`part part-${index}`" aria-hidden="true"></i>{{ part.name }}
                    <b class="figure">{{ size(part.bytes) }}</b>
                </span>
                <span class="free"
                    >Free <b class="figure">{{ size(contents.free) }}</b></span
                >
            </p>
            <p class="soft">
                {{ size(contents.reserve) }} more are kept for edits: whatever is imported or rendered, edits go on.
            </p>

            <section>
                <h3>Sessions</h3>
                <table>
                    <tbody>
                        <StorageRow v-for="entry in contents.sessions" :key="entry.id" :bytes="entry.bytes">
                            <template #name>{{ entry.name }}{{ entry.deleted ? ', deleted' : '' }}</template>
                            {{ revisions(entry.revisions) }}, {{ day(entry.at) }}
                            <template #act>
                                <button
                                    v-if="entry.revisions > contents.keptRevisions"
                                    class="text-button"
                                    @click="storage.thin(entry.id)"
                                >
                                    Keep the newest {{ contents.keptRevisions }}
                                </button>
                                <span v-if="entry.id === session.state?.id" class="soft">open</span>
                                <button
                                    v-else
                                    class="text-button"
                                    @click="removeSession(entry.id, entry.name, entry.revisions)"
                                >
                                    Remove …
                                </button>
                            </template>
                        </StorageRow>
                    </tbody>
                </table>
            </section>

            <section>
                <h3>
                    Recordings
                    <button
                        v-if="storage.unused.length > 0"
                        class="pill"
                        data-act="remove-unused"
                        @click="storage.remove('storage/media')"
                    >
                        Remove {{ storage.unused.length }} that nothing uses, {{ size(storage.sum(storage.unused)) }}
                    </button>
                    <span v-else class="soft">all in use</span>
                </h3>
                <table>
                    <tbody>
                        <StorageRow
                            v-for="media in contents.media"
                            :key="media.id"
                            :bytes="media.bytes"
                            :data-media="media.id"
                        >
                            <template #name>{{ media.name }}</template>
                            {{ about(media) }}
                            <span v-if="media.usedBy.length > 0" class="soft">in {{ media.usedBy.join(', ') }}</span>
                            <template #act>
                                <button
                                    v-if="media.usedBy.length === 0 && media.status !== 'preparing'"
                                    class="text-button"
                                    @click="storage.remove(`media/${media.id}`)"
                                >
                                    Remove
                                </button>
                            </template>
                        </StorageRow>
                    </tbody>
                </table>
                <p v-if="contents.media.length === 0" class="soft">Drop sound files on the paths to bring some in.</p>
            </section>

            <section>
                <h3>
                    Renders
                    <span v-if="contents.renders.length === 0" class="soft">none</span>
                </h3>
                <table>
                    <tbody>
                        <StorageRow v-for="render in contents.renders" :key="render.id" :bytes="render.bytes">
                            <template #name>
                                <a :href="`/api/renders/${render.id}/file`">{{ render.name }}.wav</a>
                            </template>
                            {{ day(render.at) }}
                            <template #act>
                                <button class="text-button" @click="storage.remove(`renders/${render.id}`)">
                                    Remove
                                </button>
                            </template>
                        </StorageRow>
                    </tbody>
                </table>
            </section>

            <section>
                <h3>
                    Captured audio
                    <span class="figure">{{ size(contents.captured) }}</span>
                    <button
                        v-if="contents.captured > 0"
                        class="pill"
                        data-act="remove-captured"
                        @click="storage.remove('storage/captured')"
                    >
                        Remove
                    </button>
                </h3>
                <p class="soft">What surveys measured and captured. It is measured again when it is needed.</p>
            </section>
        </div>
    </el-dialog>
</template>

<style scoped>
.contents {
    color: var(--ink);
    max-height: 68vh;
    overflow-y: auto;
    padding-right: 8px;
}

.bar {
    display: flex;
    height: 14px;
    border: 1px solid var(--contour);
    border-radius: 7px;
    overflow: hidden;
}

.part {
    background: var(--sheet);
}

.part-0 {
    background: var(--water);
}

.part-1 {
    background: var(--deep);
}

.part-2 {
    background: var(--shoal);
}

.part-3 {
    background: var(--brass);
}

.legend {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 20px;
    margin: 8px 0 2px;
}

.legend i {
    display: inline-block;
    width: 10px;
    height: 10px;
    margin-right: 6px;
    border: 1px solid var(--contour);
    border-radius: 2px;
}

.free {
    margin-left: auto;
}

.legend b {
    font-weight: 500;
}

p {
    margin: 4px 0;
}

section {
    margin-top: 18px;
}

h3 {
    display: flex;
    align-items: baseline;
    gap: 14px;
    margin: 0 0 4px;
    font-size: 14px;
    font-weight: 600;
}

h3 .soft,
h3 .figure {
    font-weight: 400;
}

h3 .pill {
    margin-left: auto;
}

table {
    width: 100%;
    border-collapse: collapse;
}

a {
    color: var(--deep);
}
</style>
