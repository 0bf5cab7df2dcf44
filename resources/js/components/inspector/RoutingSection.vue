<script setup lang="ts">
import { computed } from 'vue';
import type { Channel } from '@/api/types';
import { askName } from '@/askName';
import { groupChannels } from '@/moves';
import { rules } from '@/rules';
import { useFinder } from '@/stores/finder';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { useShelf } from '@/stores/shelf';
import ActionMenu from '@/components/controls/ActionMenu.vue';
import SwitchRow from '@/components/controls/SwitchRow.vue';

/** The row of a channel and its part in the session: effects, splits, automation, group, position, alignment. */
const props = defineProps<{ channel: Channel; along: string[] }>();

const session = useSession();
const shelf = useShelf();
const finder = useFinder();
const selection = useSelection();
const screen = useScreen();

const many = computed(() => props.along.length > 1);
const isMain = computed(() => props.channel.kind === 'main');
/** Those it stands among: tracks and note channels are in one section. */
const order = computed(() =>
    ['track', 'note'].includes(props.channel.kind)
        ? session.tracks
        : session.channels.filter((other) => other.kind === props.channel.kind),
);
const index = computed(() => order.value.findIndex((other) => other.id === props.channel.id));
const comb = computed(() => session.state?.combs.find((entry) => entry.channel === props.channel.id && !entry.split));
const ways = computed(() => rules().splitChoices.map((way) => ({ key: way.id, name: way.name, value: way })));

function move(way: 1 | -1): void {
    const neighbour = order.value[index.value + way];
    if (neighbour) {
        const to = session.channels.findIndex((other) => other.id === neighbour.id);
        void session.edit({ type: 'move-channel', channel: props.channel.id, to });
    }
}

function remove(): void {
    void session.edit({ type: 'remove-channels', channels: props.along.filter((id) => id !== session.main?.id) });
    selection.clear();
}

/** Keeps the whole row, with its splits, under a name. */
async function saveRow(): Promise<void> {
    const name = await askName('Save row', 'Save', 'row');
    if (name) {
        await shelf.saveRow(name, 'Own', props.channel);
    }
}
</script>

<template>
    <section>
        <h3>Row and routing</h3>
        <div class="actions">
            <button
                v-if="channel.kind === 'note'"
                class="text-button"
                title="Below the row (N)"
                data-open-notes
                @click="screen.toggleNotes(channel.id)"
            >
                Notes
            </button>
            <button class="text-button" title="/" @click="finder.openForSelection()">Add effect …</button>
            <button class="text-button" @click="finder.openFor(channel.id, 'postInserts', channel.postInserts.length)">
                Add after fader …
            </button>
            <ActionMenu
                v-if="!many"
                name="Split"
                about="Parallel branches at the end of the row"
                :items="ways"
                @choose="
                    (way) =>
                        finder.splitAt(
                            { channels: [channel.id], row: 'inserts', at: null, replace: null, branch: null },
                            way,
                        )
                "
            />
            <button v-if="channel.inserts.length > 0" class="text-button" @click="saveRow">Save row …</button>
            <button
                class="text-button"
                title="A"
                :aria-expanded="screen.lanes[channel.id] !== undefined"
                @click="along.forEach((id) => screen.toggleLane(id))"
            >
                Automation
            </button>
            <button
                v-if="!isMain && channel.kind !== 'cue'"
                class="text-button"
                title="G"
                @click="groupChannels(along)"
            >
                Group
            </button>
            <button v-if="!isMain && !many" class="text-button" :disabled="index === 0" @click="move(-1)">
                Move up
            </button>
            <button v-if="!isMain && !many" class="text-button" :disabled="index === order.length - 1" @click="move(1)">
                Move down
            </button>
            <button v-if="!isMain" class="text-button" title="Delete" @click="remove">Remove</button>
        </div>
        <p v-if="comb" class="about">
            Not lined up: {{ Math.abs(comb.samples) }} samples {{ comb.samples > 0 ? 'late' : 'early' }} at
            {{ comb.where }}. Equal sound cancels first at <span class="figure">{{ Math.round(comb.notch) }} Hz</span>.
            <button
                class="plain fix"
                @click="session.edit({ type: 'set-aligned', channels: [channel.id], aligned: true })"
            >
                Line up
            </button>
        </p>
        <SwitchRow
            name="Row bypassed"
            :on="!channel.insertsOn"
            @change="session.edit({ type: 'set-row', channels: along, on: !channel.insertsOn })"
        />
        <SwitchRow
            v-if="session.canBeFrozen(channel)"
            name="Switched off"
            about="Silent, and takes nothing of the machine"
            :on="channel.off === true"
            @change="session.edit({ type: 'set-off', channels: along, off: !channel.off })"
        />
        <SwitchRow
            v-if="!isMain && channel.kind !== 'cue'"
            name="Solo-safe"
            about="Heard as well when other channels are soloed"
            :on="channel.soloSafe"
            @change="session.edit({ type: 'set-solo-safe', channels: along, soloSafe: !channel.soloSafe })"
        />
        <SwitchRow
            v-if="!isMain"
            name="Alignment off"
            about="Without alignment it comes as late as its own processors make it"
            :on="!channel.aligned"
            @change="session.edit({ type: 'set-aligned', channels: along, aligned: !channel.aligned })"
        />
        <SwitchRow
            v-if="!isMain"
            name="Hidden"
            about="Not shown, still heard"
            :on="channel.hidden"
            @change="session.edit({ type: 'set-hidden', channels: along, hidden: !channel.hidden })"
        />
    </section>
</template>
