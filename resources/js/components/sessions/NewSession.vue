<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { filesOf } from '@/droppedFiles';
import { useImports } from '@/stores/imports';
import { tellRefusal } from '@/stores/notices';
import { useSession } from '@/stores/session';

/** Rates a session can be made at, Hz. */
const RATES = [44100, 48000, 88200, 96000, 176400, 192000];

/** A new session: empty, from a folder of files that becomes a track each, or one that was downloaded with its files. */
const isOpen = defineModel<boolean>({ required: true });

const session = useSession();
const imports = useImports();
const name = ref('');
const rate = ref(48000);
const files = ref<File[]>([]);
const isOver = ref(false);
const step = ref('');

const bundle = computed(() => files.value.find((file) => /\.zip$/i.test(file.name)) ?? null);
const sounds = computed(() =>
    files.value.filter((file) => /\.(wav|bwf|rf64|flac|aiff?|mp3|aac|m4a|ogg|opus|wv|caf)$/i.test(file.name)),
);
const action = computed(() =>
    bundle.value ? 'Open' : sounds.value.length > 0 ? `Make it with ${sounds.value.length} tracks` : 'Make it empty',
);

watch(isOpen, () => {
    name.value = '';
    files.value = [];
    step.value = '';
});

function take(found: File[], folder = ''): void {
    files.value = found.sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
    name.value ||= bundle.value ? '' : folder;
}

async function drop(event: DragEvent): Promise<void> {
    isOver.value = false;
    const found = await filesOf(event.dataTransfer);
    take(found.files, found.folder);
}

function choose(event: Event): void {
    const input = event.target as HTMLInputElement;
    const chosen = [...(input.files ?? [])];
    take(chosen, chosen[0]?.webkitRelativePath?.split('/')[0] ?? '');
    input.value = '';
}

async function make(): Promise<void> {
    try {
        if (bundle.value) {
            const file = bundle.value;
            step.value = 'uploading';
            await imports.openBundle(file, (progress) => (step.value = `uploading, ${Math.round(progress * 100)} %`));
        } else {
            const wanted = [...sounds.value];
            await session.create(name.value.trim() || 'New session', rate.value);
            void imports.bring(wanted);
        }
        isOpen.value = false;
    } catch (error) {
        step.value = '';
        tellRefusal(error);
    }
}
</script>

<template>
    <el-dialog v-model="isOpen" title="New session" width="520px" append-to-body>
        <div
            class="drop"
            :class="{ over: isOver }"
            data-new-session
            @dragover.prevent="isOver = true"
            @dragleave="isOver = false"
            @drop.prevent.stop="drop"
        >
            <p v-if="bundle">{{ bundle.name }}: a session with its files.</p>
            <p v-else-if="sounds.length > 0">
                {{ sounds.length }} {{ sounds.length === 1 ? 'file becomes a track' : 'files become a track each' }}:
                {{
                    sounds
                        .slice(0, 4)
                        .map((file) => file.name)
                        .join(', ')
                }}{{ sounds.length > 4 ? ' …' : '' }}
            </p>
            <p v-else-if="files.length > 0" class="soft">There is no sound among these {{ files.length }} files.</p>
            <p v-else class="soft">Drop a folder of files here, or a session that was downloaded with its files.</p>
            <span class="choose">
                <label class="pill"
                    >Choose a folder<input
                        type="file"
                        webkitdirectory
                        multiple
                        aria-label="Choose a folder"
                        @change="choose"
                /></label>
                <label class="pill"
                    >Choose files or a session<input
                        type="file"
                        multiple
                        accept="audio/*,.wav,.bwf,.rf64,.zip"
                        aria-label="Choose files or a session"
                        @change="choose"
                /></label>
            </span>
        </div>
        <div v-if="!bundle" class="setting">
            <label for="new-session-name">Name</label>
            <input id="new-session-name" v-model="name" maxlength="120" placeholder="New session" @keydown.stop />
        </div>
        <div v-if="!bundle" class="setting">
            <label for="new-session-rate">Sample rate</label>
            <ChoiceMenu
                id="new-session-rate"
                v-model="rate"
                label="Sample rate"
                :items="RATES.map((hertz) => ({ value: hertz, name: `${hertz / 1000} kHz` }))"
            />
        </div>
        <template #footer>
            <span class="soft step" aria-live="polite">{{ step }}</span>
            <button class="pill" @click="isOpen = false">Cancel</button>
            <button class="pill on" :disabled="step !== ''" @click="make">{{ action }}</button>
        </template>
    </el-dialog>
</template>

<style scoped>
.drop {
    margin-bottom: 12px;
    padding: 18px;
    border: 1.5px dashed var(--contour);
    border-radius: 8px;
    text-align: center;
}

.drop.over {
    border-color: var(--deep);
    background: var(--shoal-wash);
}

.drop p {
    margin: 0 0 10px;
}

.choose {
    display: flex;
    justify-content: center;
    gap: 8px;
}

.choose input {
    position: absolute;
    width: 1px;
    height: 1px;
    opacity: 0;
}

.choose label {
    position: relative;
    cursor: pointer;
}

.setting input {
    padding: 3px 8px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--sheet);
}

.step {
    margin-right: 10px;
}
</style>
