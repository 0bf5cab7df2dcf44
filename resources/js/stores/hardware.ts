import { StorageSerializers, useStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { api } from '@/api/client';
import type { Channel, HardwareLoop, InterfaceState, LevelAdvice, ParameterValue, PingResult, Unit } from '@/api/types';
import { portNumbers } from '@/ports';
import { tell, tellRefusal } from './notices';
import { allInserts } from '@/inserts';
import { useScreen } from './screen';
import { useSession } from './session';

/** Peak and average in dBFS, null is silence; samples that were clipped since last told. */
export type InputLevel = [peak: number | null, average: number | null, clipped: number];

/** What is set of the interface at once. */
export type InterfaceChange =
    | { buffer: number }
    | { input: number; name?: string; plug?: string; gain?: number; file?: string; output?: number }
    | { output: number; name: string }
    | { unit: string; send?: string | null; return?: string | null; knobs?: Record<string, ParameterValue> }
    | { clear: number };

/** Seconds a peak stays readable. */
const HOLD = 1.2;

/** The audio interface: how it is set, what comes in, and which tracks are armed. */
export const useHardware = defineStore('hardware', () => {
    const session = useSession();
    const screen = useScreen();
    const state = shallowRef<InterfaceState | null>(null);
    const levels = shallowRef<Record<string, InputLevel>>({});
    /** Samples each input clipped, until that is cleared. */
    const clipped = ref<Record<string, number>>({});
    const armed = ref<string[]>([]);
    /** Milliseconds: inserts that alone make a live input later are left out; null leaves nothing out. */
    const quick = useStorage<number | null>('hafen.quick', null, undefined, { serializer: StorageSerializers.object });
    /** While the loudest passage is played: all that came in since, by port; null otherwise. */
    const passage = shallowRef<Record<string, InputLevel[]> | null>(null);
    /** What to change at the inputs, after it was played. */
    const advice = ref<Record<string, LevelAdvice>>({});
    /** Seconds from a browser's microphone to the engine, by port. */
    const lateness = ref<Record<string, number>>({});
    const held = new Map<string, { peak: number | null; until: number }>();

    const inputOf = (channel: Channel | undefined) => (channel?.source.type === 'input' ? channel.source : null);

    const tracks = computed(() => session.channels.filter((channel) => inputOf(channel)));
    /** Ids of the tracks whose input is heard in place of their clips. */
    const heard = computed(() =>
        tracks.value
            .filter(({ id }) => {
                const heard = session.state?.live[id]?.heard;
                return heard === 'always' || (heard === 'armed' && armed.value.includes(id));
            })
            .map(({ id }) => id),
    );
    /** Numbers of the inputs a channel takes that nothing is plugged into. */
    function emptyInputs(channel: string): number[] {
        return portNumbers(inputOf(session.channel(channel))?.input).filter(
            (port) => state.value?.inputs[port - 1]?.plug === 'nothing',
        );
    }

    /** Whether somebody looks at the levels of the inputs. */
    const isLookedAt = computed(() => screen.view === 'inputs');
    /** Whether live sound is wanted while nothing plays: somebody is heard, or the levels are looked at. */
    const isWanted = computed(() => session.state !== null && (isLookedAt.value || heard.value.length > 0));

    function arm(channel: string, isArmed: boolean): void {
        armed.value = isArmed
            ? [...armed.value.filter((id) => id !== channel), channel]
            : armed.value.filter((id) => id !== channel);
    }

    async function load(): Promise<void> {
        take(await api.get<InterfaceState>('interface'));
    }

    async function set(change: InterfaceChange): Promise<void> {
        try {
            const known = await api.put<InterfaceState>('interface', change);
            if ('clear' in change) {
                clipped.value = Object.fromEntries(
                    Object.entries(clipped.value).filter(([port]) => Number(port) !== change.clear),
                );
            }
            take(known);
        } catch (error) {
            tellRefusal(error);
            await load().catch(tellRefusal);
        }
    }

    function take(known: InterfaceState): void {
        const before = Object.fromEntries(heard.value.map((id) => [id, emptyInputs(id).length]));
        state.value = known;
        for (const id of heard.value) {
            const [port] = emptyInputs(id);
            if (port !== undefined && before[id] === 0) {
                const name = session.channel(id)?.name ?? id;
                tell(
                    `${name} is silent: nothing is plugged into input ${port} any more. The rest plays on.`,
                    'warning',
                );
            }
        }
        // The server keeps what clipped a moment later: a mark that is shown stays.
        clipped.value = { ...clipped.value, ...known.clipped };
    }

    /** Takes in what the inputs carry now, and how late those come that do not run by the interface's clock. */
    function show(ports: Record<string, InputLevel>, late: Record<string, number> = {}): void {
        lateness.value = Object.fromEntries(
            Object.entries(late).map(([port, seconds]) => {
                const known = lateness.value[port] ?? seconds;
                return [port, known + (seconds - known) * 0.1];
            }),
        );
        const now = performance.now() / 1000;
        const shown: Record<string, InputLevel> = {};
        for (const [port, [peak, average, count]] of Object.entries(ports)) {
            passage.value?.[port]?.push([peak, average, count]);
            const known = held.get(port);
            if (!known || known.until < now || (peak ?? -Infinity) >= (known.peak ?? -Infinity)) {
                held.set(port, { peak, until: now + HOLD });
            }
            shown[port] = [held.get(port)?.peak ?? null, average, count];
            if (count > 0) {
                clipped.value = { ...clipped.value, [port]: (clipped.value[port] ?? 0) + count };
            }
        }
        levels.value = shown;
    }

    /** Listens to the loudest passage, on all inputs something is plugged into. */
    function findLevels(): void {
        advice.value = {};
        passage.value = Object.fromEntries(
            (state.value?.inputs ?? []).flatMap(({ plug }, i) => (plug === 'nothing' ? [] : [[String(i + 1), []]])),
        );
    }

    /** The passage is over: asks what to change. */
    async function endPassage(): Promise<void> {
        const inputs = Object.entries(passage.value ?? {}).map(([port, readings]) => ({
            input: Number(port),
            readings,
        }));
        passage.value = null;
        try {
            const known = await api.post<{ advice: Record<string, LevelAdvice> }>('interface/levels', { inputs });
            advice.value = known.advice;
        } catch (error) {
            tellRefusal(error);
        }
    }

    /** Sets the gain as advised. */
    async function follow(port: number): Promise<void> {
        const gain = advice.value[port]?.gain;
        advice.value = Object.fromEntries(Object.entries(advice.value).filter(([other]) => Number(other) !== port));
        if (gain !== undefined) {
            await set({ input: port, gain });
        }
    }

    const loops = computed(() => session.document?.loops ?? []);
    const unitOf = (loop: HardwareLoop): Unit | undefined => state.value?.units.find(({ id }) => id === loop.unit);
    /** What the last ping of each loop found. */
    const pinged = ref<Record<string, PingResult>>({});
    const isPinging = ref<string | null>(null);

    /** "out 3, in 4". */
    function portsOf(loop: HardwareLoop): string {
        const numbers = (ports: string) => portNumbers(ports).join('–');
        return `out ${numbers(loop.send)}, in ${numbers(loop.return)}`;
    }

    /** What the delay of a loop is, and whether it can be relied on. */
    function delayOf(loop: HardwareLoop): { text: string; isRight: boolean } {
        if (!loop.delay) {
            return { text: 'not pinged yet', isRight: false };
        }
        const unit = unitOf(loop);
        if (unit && (unit.send !== loop.send || unit.return !== loop.return)) {
            return { text: 'not plugged in', isRight: false };
        }
        const rate = session.document?.sampleRate ?? 48000;
        const text = `${((loop.delay.samples / rate) * 1000).toFixed(1)} ms`;
        const isRight = loop.delay.buffer === state.value?.buffer;
        return { text: isRight ? text : `${text} with another buffer`, isRight };
    }

    /** Measures a loop, and sets its delay. */
    async function ping(loop: HardwareLoop, gesture: string | null = null): Promise<void> {
        isPinging.value = loop.id;
        try {
            const found = await session.ask((path) => api.post<PingResult>(`${path}/loops/${loop.id}/ping`));
            if (found) {
                pinged.value = { ...pinged.value, [loop.id]: found };
                await session.edit({ type: 'set-loop', loop: loop.id, delay: found.delay }, gesture);
            }
        } catch (error) {
            tellRefusal(error);
        } finally {
            isPinging.value = null;
        }
    }

    /** With another buffer every delay is another. */
    async function setBuffer(samples: number): Promise<void> {
        await set({ buffer: samples });
        for (const loop of loops.value) {
            await ping(loop);
        }
        if (loops.value.length > 0) {
            tell('The loops were pinged again, as the buffer is another.');
        }
    }

    /** Levels a loop, or turns its polarity over, as the ping found. */
    async function applyPing(loop: HardwareLoop, what: 'level' | 'polarity'): Promise<void> {
        const found = pinged.value[loop.id];
        if (!found) {
            return;
        }
        if (what === 'level') {
            const returnTrim = Math.max(-40, Math.min(40, Math.round((loop.returnTrim - found.level) * 10) / 10));
            await session.edit({ type: 'set-loop', loop: loop.id, returnTrim });
            pinged.value = { ...pinged.value, [loop.id]: { ...found, level: 0 } };
        } else {
            await session.edit({ type: 'set-loop', loop: loop.id, invert: !loop.invert });
            pinged.value = { ...pinged.value, [loop.id]: { ...found, isInverted: false } };
        }
    }

    /** Notes where the knobs of a loop's unit stand now. */
    function note(loop: HardwareLoop, notes = loop.recall?.notes ?? '', gesture: string | null = null): void {
        const unit = unitOf(loop);
        void session.edit(
            {
                type: 'set-loop',
                loop: loop.id,
                recall: { knobs: unit?.positions ?? loop.recall?.knobs ?? {}, notes },
            },
            gesture,
        );
    }

    /** Knobs of a loop's unit that do not stand where they were noted. */
    function differing(loop: HardwareLoop): string[] {
        const unit = unitOf(loop);
        const noted = loop.recall?.knobs ?? {};
        return (unit?.knobs ?? [])
            .filter(({ id }) => noted[id] !== undefined && noted[id] !== unit?.positions[id])
            .map(({ label }) => label);
    }

    /** Channels a loop is an insert of. */
    function placesOf(loop: HardwareLoop): Channel[] {
        return session.channels.filter((channel) =>
            allInserts([...channel.inserts, ...channel.postInserts]).some(
                (insert) => insert.type === 'hardware' && insert.loop === loop.id,
            ),
        );
    }

    function end(): void {
        lateness.value = {};
        held.clear();
        levels.value = {};
    }

    /** What quick monitoring makes of a track; null where it is off. */
    function quickOf(channel: string) {
        return quick.value === null
            ? null
            : (session.state?.live[channel]?.quick.find(({ delay: most }) => most === quick.value) ?? null);
    }

    /** Whether an insert is left out of what is heard just now. */
    function isAsleep(channel: string, insert: string): boolean {
        return heard.value.includes(channel) && (quickOf(channel)?.sleeping.includes(insert) ?? false);
    }

    /** The delay of a live input in samples, by what makes it: the way in, each channel on the way, the way out. */
    function delay(channel: string): { name: string; samples: number }[] {
        const latency = state.value?.latency;
        const path = (quickOf(channel) ?? session.state?.live[channel])?.path;
        if (!latency || !path) {
            return [];
        }
        const ports = portNumbers(inputOf(session.channel(channel))?.input);
        const late = ports.map((port) => lateness.value[port]).find((seconds) => seconds !== undefined);
        return [
            // What a browser sends comes later than what is plugged into the interface.
            late === undefined
                ? { name: 'in', samples: latency.in }
                : { name: 'microphone', samples: Math.round(late * (session.document?.sampleRate ?? 48000)) },
            ...path
                .filter(({ samples }) => samples > 0)
                .map(({ channel: id, samples }) => ({ name: session.channel(id)?.name ?? id, samples })),
            { name: 'out', samples: latency.out },
        ];
    }

    /** "1 Voice", "1–2 Voice and Guitar". */
    function portName(port: string): string {
        const numbers = portNumbers(port);
        const names = numbers.map((number) => state.value?.inputs[number - 1]?.name ?? '');
        return `${numbers.join('–')} ${names.join(' and ')}`.trim();
    }

    return {
        state,
        levels,
        lateness,
        clipped,
        armed,
        quick,
        quickOf,
        isAsleep,
        tracks,
        heard,
        passage,
        advice,
        findLevels,
        endPassage,
        follow,
        isWanted,
        isLookedAt,
        inputOf,
        emptyInputs,
        arm,
        load,
        set,
        show,
        end,
        delay,
        portName,
        loops,
        unitOf,
        portsOf,
        delayOf,
        pinged,
        isPinging,
        ping,
        setBuffer,
        applyPing,
        note,
        differing,
        placesOf,
    };
});
