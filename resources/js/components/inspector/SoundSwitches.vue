<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Channel, SoundSwitch } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import NameField from '@/components/controls/NameField.vue';
import { KEYS, keyName } from '@/format';
import { useSession } from '@/stores/session';

/** The sound switches of a channel: each chooses how its rows stand, and is made from how they stand now. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();

const own = computed(() => props.channel.sounds ?? []);
/** The one whose names and fade are open. */
const open = ref<string | null>(null);

function facts(of: SoundSwitch) {
    return session.state?.sounds[of.id];
}

function add(to: SoundSwitch): void {
    void session.edit({ type: 'add-sound', switch: to.id, name: `Sound ${to.sounds.length + 1}` });
    open.value = to.id;
}

function addSwitch(): void {
    void session.edit({
        type: 'add-sound-switch',
        channel: props.channel.id,
        name: own.value.length === 0 ? 'Sounds' : `Sounds ${own.value.length + 1}`,
        sound: 'Sound 1',
    });
}

/** Note channels whose keys can choose sounds: the lowest key the first, the next one the second. */
const noteChannels = computed(() => [
    { value: '', name: 'none' },
    ...session.channels.filter(({ kind }) => kind === 'note').map(({ id, name }) => ({ value: id, name })),
]);

function byKeys(of: SoundSwitch, channel: string, lowest: number, gesture?: string): void {
    void session.edit(
        { type: 'set-sound-notes', switch: of.id, notes: channel === '' ? null : { channel, lowest } },
        gesture,
    );
}

function moves(of: SoundSwitch): string {
    const count = facts(of)?.moves.length ?? 0;
    return of.sounds.length < 2
        ? 'one sound yet: change the row, then press New sound'
        : count === 0
          ? 'its sounds are alike: change the row, then press Keep'
          : `names, fade, keys, and the ${count === 1 ? 'control' : `${count} controls`} it moves`;
}
</script>

<template>
    <section data-sounds>
        <h3>Sound switches</h3>
        <div v-for="each in own" :key="each.id" class="switch" :data-sound-switch="each.id">
            <div class="head">
                <NameField
                    :name="each.name"
                    @rename="(name) => session.edit({ type: 'set-sound-switch', switch: each.id, name })"
                />
                <button
                    class="plain"
                    :aria-label="`Remove ${each.name}`"
                    title="Remove it: all stays as it stands"
                    @click="session.edit({ type: 'remove-sound-switch', switch: each.id })"
                >
                    ×
                </button>
            </div>
            <div class="choices" role="radiogroup" :aria-label="each.name">
                <button
                    v-for="sound in each.sounds"
                    :key="sound.id"
                    class="sound"
                    role="radio"
                    :class="{ on: sound.id === each.chosen }"
                    :aria-checked="sound.id === each.chosen"
                    :data-sound="sound.id"
                    @click="session.edit({ type: 'choose-sound', switch: each.id, sound: sound.id })"
                >
                    {{ sound.name }}
                </button>
            </div>
            <div class="actions">
                <button class="text-button" title="From how the row stands now" data-new-sound @click="add(each)">
                    New sound
                </button>
                <button
                    v-if="each.chosen !== null && facts(each)?.changed"
                    class="text-button"
                    title="The row stands otherwise than when this sound was made: make it anew from how it stands"
                    data-keep-sound
                    @click="session.edit({ type: 'keep-sound', switch: each.id, sound: each.chosen })"
                >
                    Keep as {{ each.sounds.find(({ id }) => id === each.chosen)?.name }}
                </button>
            </div>
            <button
                class="plain fold"
                :aria-expanded="open === each.id"
                data-fold
                @click="open = open === each.id ? null : each.id"
            >
                {{ open === each.id ? '▾' : '▸' }} {{ moves(each) }}
            </button>
            <template v-if="open === each.id">
                <div v-for="sound in each.sounds" :key="sound.id" class="head" :data-sound-name="sound.id">
                    <NameField
                        :name="sound.name"
                        @rename="
                            (name) => session.edit({ type: 'rename-sound', switch: each.id, sound: sound.id, name })
                        "
                    />
                    <button
                        class="plain"
                        :aria-label="`Remove sound ${sound.name}`"
                        @click="session.edit({ type: 'remove-sound', switch: each.id, sound: sound.id })"
                    >
                        ×
                    </button>
                </div>
                <div class="setting">
                    <span>Fade</span>
                    <LyingSlider
                        :model-value="each.fade"
                        :min="0"
                        :max="5000"
                        :default="30"
                        :step="10"
                        :label="`Fade of ${each.name}`"
                        :text="`${Math.round(each.fade)} ms`"
                        @change="
                            (fade, gesture) =>
                                session.edit({ type: 'set-sound-switch', switch: each.id, fade: fade ?? 0 }, gesture)
                        "
                    >
                        <template #default="{ value }">{{ Math.round(value ?? 0) }} ms</template>
                    </LyingSlider>
                </div>
                <div v-if="noteChannels.length > 1" class="setting" data-sound-notes>
                    <span>Chosen by keys</span>
                    <ChoiceMenu
                        label="Note channel whose keys choose sounds"
                        :model-value="each.notes?.channel ?? ''"
                        :items="noteChannels"
                        @update:model-value="(channel) => byKeys(each, channel, each.notes?.lowest ?? 24)"
                    />
                </div>
                <div v-if="each.notes" class="setting">
                    <span>{{ each.sounds[0]?.name ?? 'First sound' }} at</span>
                    <LyingSlider
                        :model-value="each.notes.lowest"
                        :min="0"
                        :max="127"
                        :default="24"
                        :step="1"
                        :spelling="KEYS"
                        :label="`Lowest key of ${each.name}`"
                        :text="keyName(each.notes.lowest)"
                        @change="
                            (value, gesture) => byKeys(each, each.notes?.channel ?? '', Math.round(value ?? 0), gesture)
                        "
                    >
                        <template #default="{ value }">{{ keyName(Math.round(value ?? 0)) }}</template>
                    </LyingSlider>
                </div>
                <ul class="hint">
                    <li v-for="name in facts(each)?.moves" :key="name">{{ name }}</li>
                </ul>
            </template>
        </div>
        <div class="actions">
            <button
                class="text-button"
                title="A switch whose first sound is how the row stands now"
                data-new-sound-switch
                @click="addSwitch"
            >
                New sound switch
            </button>
        </div>
    </section>
</template>

<style scoped>
.switch {
    padding: 4px 0;
    border-bottom: 1px solid var(--contour);
}

.head {
    display: flex;
    gap: 8px;
    align-items: center;
}

.choices {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
    margin: 4px 0;
}

.sound {
    min-height: 28px;
    padding: 2px 12px;
    border: 1px solid var(--contour);
    border-radius: 5px;
    background: var(--sheet);
    color: inherit;
    font: inherit;
    overflow-wrap: anywhere;
    cursor: pointer;
}

.sound:hover {
    border-color: var(--deep);
}

.sound.on {
    border-color: var(--deep);
    background: var(--deep);
    color: var(--on-deep);
}

.fold {
    min-height: 24px;
    color: var(--soft);
    text-align: left;
}

ul {
    margin: 4px 0;
    padding-left: 16px;
}
</style>
