import type { Channel, HardwareLoop, Preset, ProcessorSpec, RowPreset } from '@/api/types';
import { isProcessor } from '@/inserts';
import { rules } from '@/rules';
import type { FoundSplit } from '@/stores/catalogue';

/** One line of the finder: an effect, a preset of one, a stored row, a way to split, or a bus to send to. */
export type Found =
    | { kind: 'effect'; id: string; spec: ProcessorSpec }
    | { kind: 'preset'; id: string; spec: ProcessorSpec; preset: Preset }
    | { kind: 'row'; id: string; row: RowPreset }
    | { kind: 'split'; id: string; split: FoundSplit }
    | { kind: 'loop'; id: string; loop: HardwareLoop }
    | { kind: 'send'; id: string; channel: Channel; about: string };

/** A shelf of the finder; `holds` says whether an effect stands on it. */
export interface Shelf {
    id: string;
    label: string;
    holds: (spec: ProcessorSpec) => boolean;
}

/** All shelves in order: everything, what was used last, one's own, then the categories. */
export function shelvesOf(
    recent: string[],
    favourites: string[],
    folders: { name: string; processors: string[] }[],
): Shelf[] {
    const those = (ids: string[]) => (spec: ProcessorSpec) => ids.includes(spec.id);
    return [
        { id: 'all', label: 'All', holds: () => true },
        { id: 'recent', label: 'Recent', holds: those(recent) },
        { id: 'favourites', label: 'Favourites', holds: those(favourites) },
        ...folders.map((folder) => ({
            id: `folder:${folder.name}`,
            label: folder.name,
            holds: those(folder.processors),
        })),
        ...rules().categories.map((name) => ({
            id: name,
            label: name,
            holds: (spec: ProcessorSpec) => spec.category === name,
        })),
    ];
}

const wordsOf = (text: string) => text.trim().toLowerCase().split(/\s+/).filter(Boolean);

/** Hardware loops whose name matches every word that was typed; all of them where nothing was. */
export function matchingLoops(text: string, loops: HardwareLoop[]): Found[] {
    const words = wordsOf(text);
    return loops
        .filter((loop) => words.every((word) => `${loop.name} hardware loop unit`.toLowerCase().includes(word)))
        .map((loop): Found => ({ kind: 'loop', id: `loop:${loop.id}`, loop }));
}

/** Presets whose name or use matches every word that was typed, or that of their effect together with a use. */
export function matchingPresets(text: string, presets: Preset[], specs: Record<string, ProcessorSpec>): Found[] {
    const words = wordsOf(text);
    if (words.length === 0) {
        return [];
    }
    return presets.flatMap((preset): Found[] => {
        const spec = specs[preset.processor];
        const own = `${preset.name} ${preset.use}`.toLowerCase();
        const all = `${own} ${spec?.name.toLowerCase() ?? ''}`;
        const matches = words.every((word) => all.includes(word)) && words.some((word) => own.includes(word));
        return spec && matches
            ? [{ kind: 'preset', id: `preset:${preset.processor}:${preset.name}`, spec, preset }]
            : [];
    });
}

/** Rows whose name or use matches what was typed; all of them when nothing was. */
export function matchingRows(text: string, rows: RowPreset[]): Found[] {
    const words = wordsOf(text);
    return rows
        .filter((row) => words.every((word) => `${row.name} ${row.use} row`.toLowerCase().includes(word)))
        .map((row) => ({ kind: 'row', id: `row:${row.name}`, row }));
}

/** Returns and cues by their name or by the effects on them; all of them when nothing was typed. */
export function matchingSends(text: string, buses: Channel[], specs: Record<string, ProcessorSpec>): Found[] {
    const words = wordsOf(text);
    return buses.flatMap((channel): Found[] => {
        const effects = channel.inserts.flatMap((insert) =>
            isProcessor(insert) ? (specs[insert.processor] ?? []) : [],
        );
        const all = [channel.name, channel.kind, 'send', ...effects.flatMap((spec) => [spec.name, ...spec.synonyms])];
        return words.every((word) => all.join(' ').toLowerCase().includes(word))
            ? [
                  {
                      kind: 'send',
                      id: `send:${channel.id}`,
                      channel,
                      about: effects.map((spec) => spec.name).join(', ') || `a ${channel.kind} without effects`,
                  },
              ]
            : [];
    });
}
