import { describe, expect, it } from 'vitest';
import { filesOf } from './droppedFiles';

const file = (name: string) => new File(['sound'], name);
const fileEntry = (name: string) => ({
    isFile: true,
    isDirectory: false,
    name,
    file: (resolve: (file: File) => void) => resolve(file(name)),
});

/** A folder whose reader gives a few entries at a time, as browsers do with more than a hundred. */
function folderEntry(name: string, entries: unknown[], atOnce = 2) {
    return {
        isFile: false,
        isDirectory: true,
        name,
        createReader: () => {
            let at = 0;
            return {
                readEntries: (resolve: (some: unknown[]) => void) => resolve(entries.slice(at, (at += atOnce))),
            };
        },
    };
}

const drop = (...entries: unknown[]) =>
    ({ items: entries.map((entry) => ({ webkitGetAsEntry: () => entry })), files: [] }) as unknown as DataTransfer;

describe('what is dropped', () => {
    it('is files by themselves', async () => {
        const found = await filesOf(drop(fileEntry('a.wav'), fileEntry('b.wav')));
        expect(found.files.map((one) => one.name)).toEqual(['a.wav', 'b.wav']);
        expect(found.folder).toBe('');
    });

    it('is all of a folder at any depth, and its name', async () => {
        const inner = folderEntry(
            'Drums',
            ['kick', 'snare', 'hat', 'tom', 'ride'].map((name) => fileEntry(`${name}.wav`)),
        );
        const found = await filesOf(
            drop(folderEntry('Monday', [fileEntry('voice.wav'), inner, fileEntry('bass.wav')])),
        );
        expect(found.files.map((one) => one.name).sort()).toEqual(
            ['bass.wav', 'hat.wav', 'kick.wav', 'ride.wav', 'snare.wav', 'tom.wav', 'voice.wav'].sort(),
        );
        expect(found.folder).toBe('Monday');
    });

    it('has no name of a folder where two were dropped', async () => {
        const found = await filesOf(drop(folderEntry('A', [fileEntry('a.wav')]), folderEntry('B', [])));
        expect(found.files).toHaveLength(1);
        expect(found.folder).toBe('');
    });

    it('takes plain files where a browser has no entries, and nothing from nothing', async () => {
        const plain = { items: [], files: [file('a.wav')] } as unknown as DataTransfer;
        expect((await filesOf(plain)).files.map((one) => one.name)).toEqual(['a.wav']);
        expect(await filesOf(null)).toEqual({ files: [], folder: '' });
    });

    it('fails as a whole where a file cannot be read', async () => {
        const broken = {
            isFile: true,
            isDirectory: false,
            name: 'gone.wav',
            file: (_: unknown, reject: (error: Error) => void) => reject(new Error('gone')),
        };
        await expect(filesOf(drop(fileEntry('a.wav'), broken))).rejects.toThrow('gone');
    });
});
