<script setup lang="ts">
import { computed } from 'vue';
import type { Channel } from '@/api/types';
import { choiceOfTail, TAIL_CHOICES, tailOf } from '@/choices';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { rules } from '@/rules';
import RealTimeNote from '@/components/inputs/RealTimeNote.vue';
import { useFreezes } from '@/stores/freezes';
import { useScreen } from '@/stores/screen';
import { useSession } from '@/stores/session';

/** Freezes the channels that are selected, or all others, and unfreezes them; with how much tail, in which format. */
const props = defineProps<{ channel: Channel; along: string[] }>();

const session = useSession();
const freezes = useFreezes();
const screen = useScreen();

const selected = computed(() => props.along.flatMap((id) => session.channel(id) ?? []).filter(session.canBeFrozen));
const frozen = computed(() => selected.value.filter((channel) => channel.frozen).map((channel) => channel.id));
/** Not frozen yet, or to be renewed. */
const wanted = computed(() =>
    selected.value.filter((one) => !one.frozen || needsRenewal(one.id)).map((channel) => channel.id),
);
const others = computed(() =>
    session.channels
        .filter((one) => ['track', 'note'].includes(one.kind) && !one.frozen && !props.along.includes(one.id))
        .map((channel) => channel.id),
);
const isRenewal = computed(() => wanted.value.length > 0 && wanted.value.every((id) => session.channel(id)?.frozen));
const about = computed(() => {
    const facts = frozen.value.map((id) => freezes.facts(id));
    if (facts.some((one) => one?.stale)) {
        return 'What feeds it was changed: it plays what it was.';
    }
    if (facts.some((one) => one?.playable === false)) {
        return 'The file is gone: it plays itself.';
    }
    return frozen.value.length > 0
        ? 'Plays from a file, the same sound; fader, pan, sends and what stands after the fader are free.'
        : 'The same sound from a file, to save processing power; unfrozen at any time.';
});
const tail = computed({
    get: () => choiceOfTail(freezes.tail),
    set: (choice: number) => (freezes.tail = tailOf(choice)),
});
const formats = computed(() => rules().freezeFormats.map(({ id, label }) => ({ value: id, name: label })));

function needsRenewal(id: string): boolean {
    const facts = freezes.facts(id);
    return facts !== undefined && (facts.stale || !facts.playable);
}
</script>

<template>
    <section v-if="selected.length > 0" data-freeze>
        <h3>Freeze and print</h3>
        <p class="hint" :class="{ attention: frozen.some(needsRenewal) }">{{ about }}</p>
        <div class="actions">
            <button
                v-if="wanted.length > 0"
                class="text-button"
                :disabled="freezes.isRunning"
                @click="freezes.start(wanted)"
            >
                {{ isRenewal ? 'Freeze again' : 'Freeze' }}
            </button>
            <button v-if="frozen.length > 0" class="text-button" @click="freezes.unfreeze(frozen)">Unfreeze</button>
            <button
                v-if="others.length > 0"
                class="text-button"
                title="Freezes all tracks that are not selected"
                :disabled="freezes.isRunning"
                @click="freezes.start(others)"
            >
                Freeze all others
            </button>
            <button
                class="text-button"
                title="A new piece of audio, rendered faster than it plays"
                @click="screen.printing = along"
            >
                Print …
            </button>
            <button
                v-if="frozen.length === 1 && along.length === 1"
                class="text-button"
                title="Puts the frozen sound on a new track, as a clip"
                @click="freezes.copyOut(channel)"
            >
                To a new track
            </button>
        </div>
        <RealTimeNote :channels="wanted" />
        <template v-if="wanted.length > 0">
            <div class="setting">
                <span>Tail</span>
                <ChoiceMenu v-model="tail" label="Tail of the freeze" :items="TAIL_CHOICES" />
            </div>
            <div class="setting">
                <span>Format</span>
                <ChoiceMenu v-model="freezes.format" label="Format of the freeze" :items="formats" />
            </div>
        </template>
    </section>
</template>

<style scoped>
.attention.hint {
    color: var(--brass-text);
}
</style>
