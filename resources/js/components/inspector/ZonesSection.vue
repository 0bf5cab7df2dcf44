<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Edit } from '@/api/edits';
import type { Branch, NoteZone, SelectorRange, Split } from '@/api/types';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import { KEYS, NUMBERS, keyName } from '@/format';
import { useKeysPlayed } from '@/stores/keys';
import { useSession } from '@/stores/session';
import SidingsPicture, { type Siding } from './SidingsPicture.vue';

/** Which keys and velocities the branches of a split play, with fades towards their ends: drawn along both, and typed. */
const props = defineProps<{ channel: string; split: Split }>();

const session = useSession();
const played = useKeysPlayed();

const HIGHEST = 127;
const KINDS = [
    {
        key: 'keys',
        name: 'Keys',
        lowest: 0,
        said: keyName,
        spelling: KEYS,
        marks: [12, 36, 60, 84, 108],
    },
    {
        key: 'velocities',
        name: 'Velocities',
        lowest: 1,
        said: String,
        spelling: NUMBERS,
        marks: [1, 32, 64, 96, 127],
    },
] as const;
type Kind = (typeof KINDS)[number];
const PARTS = [
    { key: 'from', name: 'from' },
    { key: 'fadeFrom', name: 'fade over' },
    { key: 'to', name: 'to' },
    { key: 'fadeTo', name: 'fade over' },
] as const;

const chosen = ref<string | null>(null);
const picked = computed(
    () => props.split.branches.find(({ id }) => id === chosen.value) ?? props.split.branches[0] ?? null,
);
/** The keys of the channel that are down, or their velocities. */
const heldIn = (kind: Kind): number[] =>
    played.channel === props.channel
        ? Object.entries(played.held).map(([key, [velocity]]) => (kind.key === 'keys' ? Number(key) : velocity))
        : [];

const all = (kind: Kind): NoteZone => ({ from: kind.lowest, to: HIGHEST, fadeFrom: 0, fadeTo: 0 });
const zoneOf = (branch: Branch, kind: Kind): NoteZone => branch[kind.key] ?? all(kind);
/** Keys or velocities there are: the width of the picture. */
const size = (kind: Kind) => HIGHEST + 1 - kind.lowest;

const sidings = (kind: Kind): Siding[] =>
    props.split.branches.map((branch) => {
        const zone = zoneOf(branch, kind);
        return {
            id: branch.id,
            name: branch.name,
            range: {
                from: (zone.from - kind.lowest) / size(kind),
                to: (zone.to + 1 - kind.lowest) / size(kind),
                fadeFrom: zone.fadeFrom / size(kind),
                fadeTo: zone.fadeTo / size(kind),
            },
            open: 1,
            passes: heldIn(kind)
                .filter((at) => at >= zone.from && at <= zone.to)
                .map((at) => place(kind, at)),
        };
    });
/** A key stands in the middle of its own width. */
const place = (kind: Kind, at: number) => (at + 0.5 - kind.lowest) / size(kind);
const marks = (kind: Kind) => kind.marks.map((at) => ({ at: place(kind, at), name: kind.said(at) }));

function saidOf(kind: Kind, siding: Siding, end: 'from' | 'to'): string {
    const branch = props.split.branches.find(({ id }) => id === siding.id);
    return branch
        ? `${branch.name}: ${end === 'from' ? 'lowest' : 'highest'} ${kind.key === 'keys' ? 'key' : 'velocity'} ${kind.said(zoneOf(branch, kind)[end])}`
        : '';
}

/** A zone of everything is none. */
function edited(branch: Branch, kind: Kind, zone: NoteZone): Edit {
    const isAll = zone.from === kind.lowest && zone.to === HIGHEST && !zone.fadeFrom && !zone.fadeTo;
    return {
        type: 'set-branch-zones',
        branch: branch.id,
        keys: branch.keys ?? null,
        velocities: branch.velocities ?? null,
        [kind.key]: isAll ? null : zone,
    };
}

function move(kind: Kind, ranges: Record<string, SelectorRange>, gesture: string): void {
    const edits = props.split.branches.flatMap((branch) => {
        const range = ranges[branch.id];
        return range
            ? [
                  edited(branch, kind, {
                      ...zoneOf(branch, kind),
                      from: Math.round(range.from * size(kind)) + kind.lowest,
                      to: Math.round(range.to * size(kind)) + kind.lowest - 1,
                  }),
              ]
            : [];
    });
    void session.edit(edits.length === 1 ? edits[0]! : { type: 'several', label: 'Notes of branches', edits }, gesture);
}

function limits(zone: NoteZone, part: keyof NoteZone, lowest: number): [number, number] {
    return part === 'from' ? [lowest, zone.to] : part === 'to' ? [zone.from, HIGHEST] : [0, zone.to - zone.from];
}

function set(branch: Branch, kind: Kind, part: keyof NoteZone, value: number | null, gesture: string): void {
    void session.edit(edited(branch, kind, { ...zoneOf(branch, kind), [part]: Math.round(value ?? 0) }), gesture);
}

const isFade = (part: keyof NoteZone) => part === 'fadeFrom' || part === 'fadeTo';
</script>

<template>
    <section data-zones>
        <h3>Notes of the branches</h3>
        <template v-for="kind in KINDS" :key="kind.key">
            <h4>{{ kind.name }}</h4>
            <SidingsPicture
                :sidings="sidings(kind)"
                :picked="picked?.id ?? null"
                :places="heldIn(kind).map((at) => place(kind, at))"
                :marks="marks(kind)"
                :steps="size(kind)"
                :least="1 / size(kind)"
                :said="(siding, end) => saidOf(kind, siding, end)"
                is-inside
                is-free
                :aria-label="`${kind.name} the branches play`"
                :data-zones-picture="kind.key"
                @pick="chosen = $event"
                @move="(ranges, gesture) => move(kind, ranges, gesture)"
            />
            <div v-if="picked" class="zone" :data-zone="`${picked.id}:${kind.key}`">
                <strong>{{ picked.name }}</strong>
                <span v-if="!picked[kind.key]" class="hint">all {{ kind.name.toLowerCase() }}</span>
                <div v-for="part in PARTS" :key="part.key" class="setting">
                    <span>{{ part.name }}</span>
                    <LyingSlider
                        :model-value="zoneOf(picked, kind)[part.key]"
                        :min="limits(zoneOf(picked, kind), part.key, kind.lowest)[0]"
                        :max="limits(zoneOf(picked, kind), part.key, kind.lowest)[1]"
                        :default="all(kind)[part.key]"
                        :step="1"
                        :spelling="isFade(part.key) ? NUMBERS : kind.spelling"
                        :label="`${picked.name}: ${kind.name} ${part.key}`"
                        :text="
                            isFade(part.key)
                                ? String(zoneOf(picked, kind)[part.key])
                                : kind.said(zoneOf(picked, kind)[part.key])
                        "
                        @change="(value, gesture) => picked && set(picked, kind, part.key, value, gesture)"
                    >
                        <template #default="{ value }">{{
                            isFade(part.key) ? Math.round(value ?? 0) : kind.said(Math.round(value ?? 0))
                        }}</template>
                    </LyingSlider>
                </div>
            </div>
        </template>
    </section>
</template>

<style scoped>
h4 {
    margin: 8px 0 2px;
    font-size: 12px;
    font-weight: 600;
    color: var(--soft);
}

.zone {
    margin: 4px 0 6px;
    padding-left: 10px;
    border-left: 2px solid var(--deep);
}

.zone .hint {
    margin-left: 8px;
}
</style>
