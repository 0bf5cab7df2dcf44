import { computed, type Ref } from 'vue';
import { matchingLoops, matchingPresets, matchingRows, matchingSends, shelvesOf, type Found } from '@/shelves';
import { useCatalogue } from '@/stores/catalogue';
import { useFinder } from '@/stores/finder';
import { useSession } from '@/stores/session';
import { useShelf } from '@/stores/shelf';

/** The shelves of the finder, and what stands on one of them and matches what was typed. */
export function useFinderResults(text: Readonly<Ref<string>>, shelf: Readonly<Ref<string>>) {
    const finder = useFinder();
    const catalogue = useCatalogue();
    const kept = useShelf();
    const session = useSession();

    const effectShelves = computed(() => shelvesOf(catalogue.recent, kept.kept.favourites, kept.kept.folders));
    const shelves = computed(() => [
        ...effectShelves.value,
        { id: 'hardware', label: 'Hardware' },
        { id: 'sends', label: 'Send to' },
        { id: 'rows', label: 'Rows and splits' },
    ]);
    const sends = computed((): Found[] =>
        finder.request?.toNewReturn ? [] : matchingSends(text.value, finder.sendTargets(), catalogue.byId),
    );
    /** Splits are no effects: they come after them, and only where a row is being built. */
    const splits = computed((): Found[] =>
        catalogue.searchSplits(text.value).map((split) => ({ kind: 'split', id: split.id, split })),
    );
    const rows = computed((): Found[] => matchingRows(text.value, kept.rows));
    const areRowsWanted = computed(() => finder.request && !finder.request.replace && !finder.request.toNewReturn);

    const loops = computed((): Found[] =>
        areRowsWanted.value ? matchingLoops(text.value, session.document?.loops ?? []) : [],
    );

    const found = computed((): Found[] => {
        if (shelf.value === 'hardware') {
            return loops.value;
        }
        if (shelf.value === 'sends') {
            return sends.value;
        }
        if (shelf.value === 'rows') {
            return areRowsWanted.value ? [...rows.value, ...splits.value] : [];
        }
        const holds = effectShelves.value.find((one) => one.id === shelf.value)?.holds ?? (() => true);
        const effects = catalogue
            .search(text.value)
            .filter(holds)
            .map((spec): Found => ({ kind: 'effect', id: spec.id, spec }));
        const presets = matchingPresets(text.value, kept.presets, catalogue.byId).filter(
            (entry) => entry.kind === 'preset' && holds(entry.spec),
        );
        if (shelf.value !== 'all') {
            return [...effects, ...presets];
        }
        // Where nothing was typed, what was stored or sent to would stand in the way of the effects.
        const typed = text.value !== '';
        return [
            ...effects,
            ...presets,
            ...loops.value,
            ...(typed ? sends.value : []),
            ...(areRowsWanted.value ? [...(typed ? rows.value : []), ...splits.value] : []),
        ];
    });

    return { shelves, found };
}
