<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { matchingPresets, matchingRows, matchingSends, shelvesOf, type Found } from '@/shelves';
import { rules } from '@/rules';
import { useCatalogue } from '@/stores/catalogue';
import { useFinder } from '@/stores/finder';
import { useSession } from '@/stores/session';
import { useShelf } from '@/stores/shelf';
import { useChipDrag, type Load } from '@/components/paths/chipDrag';
import FolderPicker from '@/components/sessions/FolderPicker.vue';
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

const shelves = computed(() => shelvesOf(catalogue.recent, kept.kept.favourites, kept.kept.folders));
const rowsAreWanted = computed(() => finder.request && !finder.request.replace && !finder.request.toNewReturn);
const found = computed((): Found[] => {
    if (shelf.value === 'sends') {
        return sends.value;
    }
    if (shelf.value === 'rows') {
        return rowsAreWanted.value ? [...matchingRows(text.value, kept.rows), ...splits.value] : [];
    }
    const holds = shelves.value.find((one) => one.id === shelf.value)?.holds ?? (() => true);
    const effects = catalogue
        .search(text.value)
        .filter(holds)
        .map((spec): Found => ({ kind: 'effect', id: spec.id, spec }));
    const presets = matchingPresets(text.value, kept.presets, catalogue.byId).filter(
        (entry) => entry.kind === 'preset' && holds(entry.spec),
    );
    const rows =
        shelf.value === 'all' && rowsAreWanted.value
            ? [...(text.value === '' ? [] : matchingRows(text.value, kept.rows)), ...splits.value]
            : [];
    return [...effects, ...presets, ...(shelf.value === 'all' && text.value !== '' ? sends.value : []), ...rows];
});
const sends = computed((): Found[] =>
    finder.request?.toNewReturn ? [] : matchingSends(text.value, finder.sendTargets(), catalogue.byId),
);
const allShelves = computed(() => [
    ...shelves.value,
    { id: 'sends', label: 'Send to' },
    { id: 'rows', label: 'Rows and splits' },
]);
/** Splits are no effects: they come after them, and only where a row is being built. */
const splits = computed((): Found[] =>
    catalogue.searchSplits(text.value).map((split) => ({ kind: 'split', id: split.id, split })),
);
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
                        :data-send-to="entry.kind === 'send' ? entry.channel.id : undefined"
                        :data-split-way="entry.kind === 'split' ? entry.split.id : undefined"
                        @pointermove="chosen = index"
                        @pointerdown="grab($event, entry)"
                        @click="take(entry)"
                    >
                        <template v-if="entry.kind === 'effect'">
                            <button
                                class="plain star"
                                :class="{ on: kept.kept.favourites.includes(entry.spec.id) }"
                                :aria-label="`${entry.spec.name}: favourite`"
                                :aria-pressed="kept.kept.favourites.includes(entry.spec.id)"
                                title="F2"
                                @pointerdown.stop
                                @click.stop="kept.toggleFavourite(entry.spec.id)"
                            >
                                {{ kept.kept.favourites.includes(entry.spec.id) ? '◆' : '◇' }}
                            </button>
                            <span class="name">{{ entry.spec.name }}</span>
                            <span class="purpose">{{ entry.spec.purpose }}</span>
                            <span class="facts">
                                <span
                                    v-if="entry.spec.levelDependent"
                                    class="mark"
                                    title="Level-dependent: it sounds different when fed differently"
                                    >level</span
                                >
                                <span v-if="entry.spec.widens" title="Mono in, stereo out">1→2</span>
                                <span
                                    class="figure cost"
                                    title="Per cent of one core for a stereo instance, as measured"
                                    >{{ entry.spec.cost === null ? '' : `${entry.spec.cost.toFixed(1)} %` }}</span
                                >
                            </span>
                        </template>
                        <template v-else-if="entry.kind === 'preset'">
                            <span />
                            <span class="name">{{ entry.preset.name }}</span>
                            <span class="purpose">{{ entry.spec.name }}, {{ entry.preset.use.toLowerCase() }}</span>
                            <span class="facts">preset</span>
                        </template>
                        <template v-else-if="entry.kind === 'row'">
                            <span />
                            <span class="name">{{ entry.row.name }}</span>
                            <span class="purpose"
                                >{{ entry.row.inserts.length }} inserts, {{ entry.row.use.toLowerCase() }}</span
                            >
                            <span class="facts"
                                >row<button
                                    v-if="entry.row.id !== null"
                                    class="plain"
                                    :aria-label="`Delete row ${entry.row.name}`"
                                    @pointerdown.stop
                                    @click.stop="kept.removeRow(entry.row)"
                                >
                                    ×
                                </button></span
                            >
                        </template>
                        <template v-else-if="entry.kind === 'send'">
                            <span />
                            <span class="name">Send to {{ entry.channel.name }}</span>
                            <span class="purpose">{{ entry.about }}</span>
                            <span class="facts">{{ entry.channel.kind }}</span>
                        </template>
                        <template v-else>
                            <span />
                            <span class="name">{{ entry.split.name }}</span>
                            <span class="purpose">{{ entry.split.purpose }}</span>
                            <span class="facts">{{ 'stored' in entry.split ? 'own split' : 'split' }}</span>
                        </template>
                    </li>
                    <li v-if="found.length === 0" class="none">
                        {{
                            text === ''
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

.name {
    font-weight: 500;
}

.purpose {
    line-height: 16px;
}

.purpose,
.facts,
.none,
.star {
    color: var(--soft);
}

.star.on {
    color: var(--brass-text);
}

.facts {
    display: flex;
    gap: 10px;
    font-size: 12px;
}

.cost {
    width: 44px;
    text-align: right;
}

.mark {
    color: var(--brass-text);
}

.entries li.none {
    display: block;
    cursor: default;
}

.foot {
    margin: 0;
    padding: 6px 16px 10px;
    border-top: 1px solid var(--contour);
}
</style>
