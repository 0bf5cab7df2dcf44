<script setup lang="ts">
import { computed } from 'vue';
import { decibels } from '@/format';
import { useImports } from '@/stores/imports';
import { usePilot } from '@/stores/pilot';
import { useScreen, type ViewName } from '@/stores/screen';
import { useSession } from '@/stores/session';
import { useSurvey } from '@/stores/survey';
import LoadChip from './LoadChip.vue';
import SessionMenu from '@/components/sessions/SessionMenu.vue';
import StatusChip from '@/components/paths/StatusChip.vue';

const props = defineProps<{ look: string }>();
defineEmits<{ render: []; keys: []; look: [] }>();

const session = useSession();
const survey = useSurvey();
const imports = useImports();
const pilot = usePilot();
const screen = useScreen();
const views: [ViewName, string][] = [
    ['inputs', 'Inputs'],
    ['paths', 'Paths'],
    ['sends', 'Sends'],
    ['headroom', 'Headroom'],
    ['load', 'Load'],
];

const mainKey = computed(() => `${session.main?.id}:post-fader`);
const main = computed(() => survey.state?.result?.taps[mainKey.value] ?? null);
const overs = computed(() => main.value?.overs ?? 0);
const headroom = computed(() => survey.state?.result?.headroom ?? 'below');
const headline = computed(() => {
    if (!main.value) {
        return !survey.state?.running ? 'main' : `survey ${Math.round(survey.state.running.progress * 100)} %`;
    }
    const name = { below: 'main peak', over: 'main over', clips: 'main clips' }[headroom.value];
    return `${name}${survey.isCurrent ? '' : ', measuring'}`;
});
function bring(event: Event): void {
    const input = event.target as HTMLInputElement;
    void imports.bring([...(input.files ?? [])]);
    input.value = '';
}
</script>

<template>
    <header class="top">
        <svg class="mark" viewBox="0 0 32 32" aria-hidden="true">
            <path d="M5 14V7h7v7M20 14V9h7v5" />
            <path class="wave" d="M3 22c3.2-3.4 6.4-3.4 9.6 0s6.4 3.4 9.6 0 5.2-2.6 6.8-.8" />
        </svg>
        <span class="brand">Hafen</span>
        <span class="divider" />
        <SessionMenu />
        <nav aria-label="Views">
            <button
                v-for="[view, name] in views"
                :key="view"
                class="view plain"
                :class="{ current: screen.view === view }"
                :aria-current="screen.view === view ? 'page' : undefined"
                @click="screen.view = view"
            >
                {{ name }}
            </button>
        </nav>
        <label class="text-button" tabindex="0" @keydown.enter="($event.currentTarget as HTMLElement).click()">
            Import<input
                id="hafen-import"
                type="file"
                multiple
                accept="audio/*,.wav,.bwf,.rf64,.mid,.midi"
                @change="bring"
            />
        </label>
        <button class="text-button" :disabled="!session.document?.length" @click="$emit('render')">Render …</button>
        <span class="fill" />
        <StatusChip
            :value="`${main ? decibels(main.peak, true) : '·'} dB`"
            :label="headline"
            :tone="headroom === 'below' ? null : headroom"
            data-chip="headroom"
            :title="
                overs > 0
                    ? `${overs} samples of the main lie above 0 dBFS`
                    : 'Highest sample of the main over the whole length'
            "
            @click="screen.view = 'headroom'"
        />
        <LoadChip />
        <StatusChip
            :value="pilot.count"
            :label="pilot.count === 1 ? 'pilot note' : 'pilot notes'"
            :tone="pilot.isSevere ? 'clips' : pilot.count > 0 ? 'over' : null"
            data-chip="pilot"
            :aria-pressed="pilot.isShown"
            :title="pilot.count === 0 ? 'The Pilot has nothing to note' : 'What the Pilot noted'"
            @click="pilot.isShown = !pilot.isShown"
        />
        <button
            class="text-button"
            :disabled="!session.state?.undo"
            :title="session.state?.undo ? `Undo: ${session.state.undo}` : 'Nothing to undo'"
            aria-label="Undo"
            @click="session.undo()"
        >
            ↶
        </button>
        <button
            class="text-button"
            :disabled="!session.state?.redo"
            :title="session.state?.redo ? `Redo: ${session.state.redo}` : 'Nothing to redo'"
            aria-label="Redo"
            @click="session.redo()"
        >
            ↷
        </button>
        <button
            class="text-button"
            :title="props.look === 'day' ? 'Night look' : 'Day look'"
            :aria-label="props.look === 'day' ? 'Night look' : 'Day look'"
            @click="$emit('look')"
        >
            {{ props.look === 'day' ? '☾' : '☀' }}
        </button>
        <button class="text-button" title="Keys (?)" aria-label="Keys" @click="$emit('keys')">?</button>
    </header>
</template>

<style scoped>
.top {
    display: flex;
    align-items: center;
    gap: 8px;
    height: 100%;
    padding: 0 12px 0 16px;
    border-bottom: 1px solid var(--contour);
    background: var(--sheet);
}

.mark {
    width: 26px;
    height: 26px;
    fill: none;
    stroke: var(--ink);
    stroke-width: 2.6;
    stroke-linecap: round;
    stroke-linejoin: round;
}

.wave {
    stroke: var(--deep);
}

.brand {
    font-size: 16px;
    font-weight: 600;
}

.divider {
    width: 1px;
    height: 20px;
    margin: 0 6px;
    background: var(--contour);
}

nav {
    align-self: stretch;
    display: flex;
    margin: 0 10px 0 18px;
}

.view {
    display: flex;
    align-items: center;
    padding: 0 10px;
}

.view.current {
    font-weight: 600;
    box-shadow: inset 0 -3px 0 var(--deep);
}

label {
    position: relative;
    cursor: pointer;
}

label input {
    position: absolute;
    width: 1px;
    height: 1px;
    opacity: 0;
}

.fill {
    flex: 1;
}

.text-button {
    white-space: nowrap;
}

/* Five views and three figures stand in one line at 1024 too. */
@media (max-width: 1180px) {
    .top {
        gap: 5px;
    }

    nav {
        margin: 0 4px;
    }

    .view {
        padding: 0 6px;
    }

    .text-button {
        padding: 3px 5px;
    }
}
</style>
