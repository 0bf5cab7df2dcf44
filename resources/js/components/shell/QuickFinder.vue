<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { useFinderResults } from '@/composables/useFinderResults';
import type { Found } from '@/shelves';
import { rules } from '@/rules';
import { useCatalogue } from '@/stores/catalogue';
import { useFinder } from '@/stores/finder';
import { useSession } from '@/stores/session';
import { useShelf } from '@/stores/shelf';
import { useChipDrag, type Load } from '@/components/paths/chipDrag';
import FolderPicker from '@/components/sessions/FolderPicker.vue';
import FinderEntry from './FinderEntry.vue';
import RoleLamp from '@/components/paths/RoleLamp.vue';

/** Finds effects, presets, rows and splits by shelf or by typing; everything in it can be done by key. */
const finder = useFinder();
const catalogue = useCatalogue();
const session = useSession();
const kept = useShelf();
const drag = useChipDrag();
const text = ref('');
const chosen = ref(0);
const shelf = ref('all');
/** The effect whose folders are being chosen. */
const filed = ref<string | null>(null);
const field = ref<HTMLInputElement>();
const list = ref<HTMLElement>();

const { shelves: allShelves, found } = useFinderResults(text, shelf);
const where = computed(() => {
    const request = finder.request;
    if (!request) {
        return '';
    }
    const names = request.channels.map((id) => session.channel(id)?.name ?? id);
    const on = names.length > 3 ? `${names.length} channels` : names.join(', ');
    const row = request.row === 'postInserts' ? ', after the fader' : '';
    if (request.toNewReturn) {
        return `on a new return, sent to from ${on}`;
    }
    return request.replace ? `in place on ${on}` : `on ${on}${row}`;
});

watch(
    () => finder.request !== null,
    async (isOpen) => {
        if (isOpen) {
            text.value = '';
            chosen.value = 0;
            shelf.value = 'all';
            filed.value = null;
            await nextTick();
            field.value?.focus();
        }
    },
);
watch([text, shelf], () => (chosen.value = 0));
watch(chosen, async () => {
    await nextTick();
    list.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' });
});

function take(entry: Found | undefined): void {
    if (entry?.kind === 'effect') {
        void finder.choose(entry.spec.id);
    } else if (entry?.kind === 'preset') {
        void finder.choose(entry.spec.id, entry.preset);
    } else if (entry?.kind === 'row') {
        void finder.chooseRow(entry.row);
    } else if (entry?.kind === 'loop') {
        void finder.chooseLoop(entry.loop.id);
    } else if (entry?.kind === 'send') {
        void finder.chooseSend(entry.channel);
    } else if (entry) {
        void finder.split(entry.split);
    }
}

function nextShelf(way: 1 | -1): void {
    const ids = allShelves.value.map((one) => one.id);
    shelf.value = ids[(ids.indexOf(shelf.value) + way + ids.length) % ids.length] ?? 'all';
}

function specOf(entry: Found | undefined): string | null {
    return entry?.kind === 'effect' || entry?.kind === 'preset' ? entry.spec.id : null;
}

function endFiling(): void {
    filed.value = null;
    field.value?.focus();
}

function key(event: KeyboardEvent): void {
    event.stopPropagation();
    const processor = specOf(found.value[chosen.value]);
    const command = event.ctrlKey || event.metaKey;
    const actions: Record<string, () => void> = {
        ArrowDown: () => (chosen.value = Math.min(found.value.length - 1, chosen.value + 1)),
        ArrowUp: () => (chosen.value = Math.max(0, chosen.value - 1)),
        Tab: () => nextShelf(event.shiftKey ? -1 : 1),
        Enter: () => {
            if (command) {
                finder.toggleTarget();
            } else {
                take(found.value[chosen.value]);
            }
        },
        Escape: () => finder.close(),
        F2: () => processor && kept.toggleFavourite(processor),
        F4: () => (filed.value = processor),
    };
    const action = actions[event.key];
    if (action) {
        event.preventDefault();
        action();
    }
}

/** Out of the finder onto a channel: it makes room as soon as something is dragged. */
function grab(event: PointerEvent, entry: Found): void {
    const load: Load | null =
        entry.kind === 'effect'
            ? { kind: 'effect', processor: entry.spec.id, label: entry.spec.name }
            : entry.kind === 'preset'
              ? { kind: 'preset', preset: entry.preset, label: entry.preset.name }
              : entry.kind === 'row'
                ? { kind: 'row', row: entry.row, label: entry.row.name }
                : null;
    if (load && !finder.request?.replace) {
        drag.grabLoad(event, load, () => finder.close());
    }
}
</script>

<template>
    <div v-if="finder.request" class="veil" @pointerdown.self="finder.close()">
        <div class="finder" role="dialog" aria-label="Find an effect" @keydown="key">
            <div class="head">
                <input
                    ref="field"
                    v-model="text"
                    class="field"
                    placeholder="Type part of a name, or what it does"
                    aria-label="Find an effect"
                />
                <span class="hint">{{ where }}</span>
                <button
                    v-if="!finder.request.replace && finder.request.branch === null"
                    class="text-button target"
                    title="Ctrl+Enter"
                    :aria-pressed="finder.request.toNewReturn === true"
                    @click="finder.toggleTarget()"
                >
                    {{ finder.request.toNewReturn ? 'As an insert instead' : 'On a new return instead' }}
                </button>
            </div>
            <div class="body">
                <FolderPicker v-if="filed && catalogue.byId[filed]" :spec="catalogue.byId[filed]!" @close="endFiling" />
                <ul class="shelves" role="listbox" aria-label="Shelves">
                    <li
                        v-for="one in allShelves"
                        :key="one.id"
                        role="option"
                        :aria-selected="one.id === shelf"
                        :class="{ on: one.id === shelf }"
                        :data-shelf="one.id"
                        @click="
                            shelf = one.id;
                            field?.focus();
                        "
                    >
                        <RoleLamp v-if="rules().categories.includes(one.id)" :role="one.id" :on="true" />{{ one.label }}
                    </li>
                </ul>
                <ul ref="list" class="entries" role="listbox" aria-label="Effects">
                    <li
                        v-for="(entry, index) in found"
                        :key="entry.id"
                        role="option"
                        :aria-selected="index === chosen"
                        :class="{ chosen: index === chosen }"
                        :data-processor="entry.kind === 'effect' ? entry.spec.id : undefined"
                        :data-preset="entry.kind === 'preset' ? entry.preset.name : undefined"
                        :data-row-preset="entry.kind === 'row' ? entry.row.name : undefined"
                        :data-loop="entry.kind === 'loop' ? entry.loop.id : undefined"
                        :data-send-to="entry.kind === 'send' ? entry.channel.id : undefined"
                        :data-split-way="entry.kind === 'split' ? entry.split.id : undefined"
                        @pointermove="chosen = index"
                        @pointerdown="grab($event, entry)"
                        @click="take(entry)"
                    >
                        <FinderEntry :entry="entry" />
                    </li>
                    <li v-if="found.length === 0" class="none">
                        {{
                            shelf === 'hardware'
                                ? 'No hardware loop is defined yet: that is done in Inputs.'
                                : text === ''
                                  ? 'Nothing stands here yet. F2 on an effect makes it a favourite, F4 puts it in a folder.'
                                  : 'Nothing here is called that. Tab goes to another shelf.'
                        }}
                    </li>
                </ul>
            </div>
            <p class="hint foot">
                ↑ ↓ choose · Enter adds · Tab next shelf · Ctrl+Enter insert or new return · F2 favourite · F4 folder ·
                drag onto a channel · Esc closes
            </p>
        </div>
    </div>
</template>

<style scoped>
.veil {
    position: fixed;
    inset: 0;
    z-index: 60;
    background: rgb(10 25 32 / 28%);
}

.finder {
    width: min(820px, 94vw);
    margin: 70px auto 0;
    background: var(--sheet);
    border: 1px solid var(--contour);
    border-radius: 6px;
    box-shadow: 0 10px 40px rgb(0 0 0 / 22%);
}

.head {
    display: grid;
    grid-template-columns: 1fr auto;
    align-items: baseline;
    padding: 12px 16px 8px;
    border-bottom: 1px solid var(--contour);
}

.field {
    grid-column: 1 / -1;
    width: 100%;
    border: 0;
    outline: 0;
    background: none;
    font-size: 16px;
}

.body {
    position: relative;
    display: grid;
    grid-template-columns: 132px 1fr;
    height: min(440px, 60vh);
}

ul {
    margin: 0;
    padding: 6px 0;
    list-style: none;
    overflow: auto;
}

.shelves {
    border-right: 1px solid var(--contour);
}

.shelves li {
    display: flex;
    gap: 7px;
    align-items: center;
    padding: 4px 16px;
    color: var(--soft);
    cursor: pointer;
}

.shelves li.on {
    color: var(--ink);
    font-weight: 500;
    box-shadow: inset 3px 0 0 var(--deep);
}

.entries li {
    display: grid;
    grid-template-columns: 18px 176px minmax(0, 1fr) auto;
    gap: 8px;
    align-items: baseline;
    padding: 5px 16px 5px 10px;
    cursor: pointer;
    user-select: none;
}

.entries li.chosen {
    background: var(--shoal-wash);
}

.entries li.none {
    color: var(--soft);
    display: block;
    cursor: default;
}

.foot {
    margin: 0;
    padding: 6px 16px 10px;
    border-top: 1px solid var(--contour);
}
</style>
