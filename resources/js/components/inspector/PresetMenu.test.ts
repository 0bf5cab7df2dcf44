import { afterEach, describe, expect, it } from 'vitest';
import type { VueWrapper } from '@vue/test-utils';
import type { Preset, ProcessorInsert } from '@/api/types';
import { useListening } from '@/stores/listening';
import { useShelf } from '@/stores/shelf';
import { channel, insert, number, processor, settled, shown, world, type World } from '@/testing';
import PresetMenu from './PresetMenu.vue';

let menu: VueWrapper;
let made: World;

const spec = processor('drive', 'Colour', { parameters: [number('drive', { default: 6 }), number('output')] });
const preset = (name: string, parameters: Record<string, number>, id: number | null = null): Preset => ({
    id,
    processor: 'drive',
    name,
    use: 'Bass',
    parameters,
});

/** With the presets whose setting it has, as the server says. */
function open(one: Partial<ProcessorInsert>, presets: string[] = []): void {
    const drive = insert('i1', 'drive', one);
    made = world([channel('bass', { inserts: [drive] })], [spec], {
        inserts: { i1: { label: 'Drive', latency: 0, presets } },
    });
    useShelf().presets = [
        preset('Warm', { drive: 9 }),
        preset('Hot', { drive: 18, output: -6 }),
        preset('Mine', { drive: 12 }, 4),
    ];
    menu = shown(PresetMenu, { insert: drive, spec });
}

afterEach(() => menu.unmount());

const state = () => {
    const name = menu.find('[data-preset]');
    return [name.attributes('data-preset'), name.attributes('data-changed')];
};

async function press(key: string): Promise<void> {
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    await settled();
}

describe('the menu of presets', () => {
    it('knows the preset by what is set, the one taken last before others that are alike', () => {
        open({ parameters: { drive: 18, output: -6 } }, ['Hot']);
        expect(state()).toEqual(['Hot', 'false']);
        menu.unmount();
        open({ parameters: {} }, ['Default', 'Mine']);
        expect(state()).toEqual(['Default', 'false']);
        menu.unmount();
        open({ parameters: {}, preset: 'Mine' }, ['Default', 'Mine']);
        expect(state()).toEqual(['Mine', 'false']);
    });

    it('marks what moved away from the preset taken last', () => {
        open({ parameters: { drive: 10 }, preset: 'Warm' });
        expect(state()).toEqual(['Warm', 'true']);
        menu.unmount();
        open({ parameters: { drive: 10 } });
        expect(state()).toEqual(['Own setting', 'true']);
    });

    it('steps on and round by keys, as one step of undo, and not while somebody types', async () => {
        open({ parameters: { drive: 12 }, preset: 'Mine' });
        await press(']');
        await press('[');
        expect(made.edits).toEqual([
            { type: 'set-parameters', insert: 'i1', parameters: {}, preset: 'Default' },
            { type: 'set-parameters', insert: 'i1', parameters: { drive: 18, output: -6 }, preset: 'Hot' },
        ]);
        const field = document.createElement('input');
        document.body.append(field);
        field.dispatchEvent(new KeyboardEvent('keydown', { key: ']', bubbles: true }));
        await settled();
        expect(made.edits).toHaveLength(2);
        field.remove();
    });

    it('goes back to the preset, and compares with it', async () => {
        open({ parameters: { drive: 10 }, preset: 'Warm' });
        const button = (text: string) => menu.findAll('button').find((one) => one.text() === text);
        await button('compare')?.trigger('click');
        expect(useListening().compare).toMatchObject({
            kind: 'setting',
            id: 'i1',
            parameters: { drive: 9 },
            label: 'Warm',
        });
        await button('revert')?.trigger('click');
        await settled();
        expect(made.edits).toEqual([
            { type: 'set-parameters', insert: 'i1', parameters: { drive: 9 }, preset: 'Warm' },
        ]);
    });

    it('stops listening to keys when it is gone', async () => {
        open({});
        menu.unmount();
        await press(']');
        expect(made.edits).toEqual([]);
    });
});
