import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { api } from '@/api/client';
import type { Edit, NewFile } from '@/api/edits';
import type { MediaState, MidiSong, SessionState } from '@/api/types';
import { tell, tellRefusal } from './notices';
import { useSession } from './session';

/** Bytes sent at a time; an interrupted piece is sent again. */
const PIECE = 4 << 20;
const TRIES = 4;

/** Brings files in: onto a new track each, or onto a track that is there. */
export const useImports = defineStore('imports', () => {
    const session = useSession();
    const running = shallowRef<{ name: string; progress: number; step: string }[]>([]);

    async function upload(file: File, report: (progress: number) => void): Promise<string> {
        const { id } = await api.post<{ id: string }>('uploads', { name: file.name, bytes: file.size });
        for (let at = 0; at < file.size; ) {
            at = await piece(id, file, at);
            report(at / file.size);
        }
        return id;
    }

    const rate = () => session.document?.sampleRate ?? 48000;

    async function send(file: File, report: (progress: number) => void, sampleRate = rate()): Promise<string> {
        const id = await upload(file, report);
        const media = await api.post<{ id: string }>(`uploads/${id}/finish`, { sampleRate });
        return media.id;
    }

    async function piece(id: string, file: File, at: number): Promise<number> {
        for (let attempt = 1; ; attempt++) {
            try {
                return (await api.put<{ received: number }>(`uploads/${id}?offset=${at}`, file.slice(at, at + PIECE)))
                    .received;
            } catch (error) {
                if (attempt >= TRIES) {
                    throw error;
                }
                await new Promise((resolve) => setTimeout(resolve, 500 * attempt));
            }
        }
    }

    async function prepared(
        id: string,
        report: (progress: number) => void = () => undefined,
        sampleRate = rate(),
    ): Promise<MediaState> {
        for (;;) {
            const media = await api.get<MediaState>(`media/${id}?sampleRate=${sampleRate}`);
            if (media.status !== 'preparing') {
                return media;
            }
            report(media.progress);
            await new Promise((resolve) => setTimeout(resolve, 250));
        }
    }

    /** Sends a file that is used by an effect rather than put on a track; its id, or null when it was refused. */
    async function keep(file: File): Promise<string | null> {
        try {
            const id = await send(file, () => undefined);
            const media = await prepared(id);
            if (media.status === 'ready') {
                return id;
            }
            tell(`${file.name} could not be read.`, 'error');
        } catch (error) {
            tellRefusal(error);
        }
        return null;
    }

    /** Opens a session that was downloaded with its files; it is shown once they can be heard. */
    async function openBundle(file: File, report: (progress: number) => void): Promise<void> {
        const id = await upload(file, report);
        const opened = await api.post<{ session: SessionState; media: string[] }>(`uploads/${id}/open`);
        session.show(opened.session);
        for (const media of opened.media) {
            const known = await prepared(media);
            if (known.status === 'failed') {
                tell(known.message ?? 'The file could not be read.', 'warning', known.name);
            }
        }
        await session.refresh();
        await session.list();
    }

    /** Makes a note channel of each part of a MIDI file. */
    async function bringNotes(file: File, into: number | undefined): Promise<void> {
        try {
            const song = await api.post<MidiSong>('midi', file);
            const edits: Edit[] = song.parts.map(({ name, clip }) => ({
                type: 'add-channel',
                kind: 'note',
                name,
                notes: clip,
            }));
            if (edits.length === 0) {
                tell('There are no notes in it.', 'warning', file.name);
                return;
            }
            await session.edit({ type: 'several', label: `Notes of ${file.name}`, edits }, null, into);
            const tempo = session.document?.tempo ?? 120;
            if (song.tempo !== null && (song.changesTempo || Math.abs(song.tempo - tempo) > 0.01)) {
                tell(
                    `It plays at ${song.tempo} BPM${song.changesTempo ? ' at first, and changes' : ''}; the notes follow the session, which has ${tempo}.`,
                    'info',
                    file.name,
                );
            }
        } catch (error) {
            tellRefusal(error);
        }
    }

    /** Puts files on tracks of the session that is shown now, whichever is shown when they arrive. */
    async function bring(files: File[], channel: string | null = null): Promise<void> {
        const into = session.state?.id;
        const sampleRate = rate();
        for (const file of files) {
            if (/\.midi?$/i.test(file.name)) {
                await bringNotes(file, into);
                continue;
            }
            const entry = { name: file.name, progress: 0, step: 'uploading' };
            running.value = [...running.value, entry];
            const update = (change: Partial<typeof entry>) => {
                Object.assign(entry, change);
                running.value = [...running.value];
            };
            try {
                const id = await send(file, (progress) => update({ progress }), sampleRate);
                update({ step: 'preparing', progress: 0 });
                const media = await prepared(id, (progress) => update({ progress }), sampleRate);
                if (media.status === 'failed' || media.length === null) {
                    tell(media.message ?? 'The file could not be read.', 'warning', file.name);
                    continue;
                }
                if (media.unreadable > 0) {
                    tell(
                        `${media.unreadable} samples of it are no numbers, or infinite. They are read as silence.`,
                        'warning',
                        file.name,
                    );
                }
                const name = file.name.replace(/\.[^.]*$/, '').slice(0, 120) || 'Untitled';
                const reference: NewFile = {
                    file: media.id,
                    length: media.length,
                    width: media.channels === 1 ? 'mono' : 'stereo',
                };
                await session.edit(
                    channel
                        ? { type: 'put-file', channel, file: reference }
                        : { type: 'add-channel', name, file: reference },
                    null,
                    into,
                );
            } catch (error) {
                tellRefusal(error);
            } finally {
                running.value = running.value.filter((other) => other !== entry);
            }
        }
    }

    return { running, bring, keep, openBundle };
});
