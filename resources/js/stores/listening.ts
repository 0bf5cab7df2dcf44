import { useStorage, useTimeoutFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, markRaw, ref, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { ParameterValue, TapLevel } from '@/api/types';
import type { MeterFrame, Notice, TakeSoFar, Watched } from '@/listening/frames';
import { LiveLevels } from '@/listening/liveLevels';
import { MeteredChannels } from '@/listening/meteredChannels';
import { whyPlaybackPauses } from '@/listening/pause';
import { Player } from '@/listening/player';
import { useHardware } from './hardware';
import { tell, tellRefusal } from './notices';
import { useSession } from './session';
import { useSurvey } from './survey';

/** For the ears only: a boost that is moved over a channel, or one band of an equaliser alone. */
export type Sweep = { channel: string; frequency: number } | { insert: string; band: string };

/** Milliseconds between two redraws of the figures. */
const REDRAW = 80;
/** Milliseconds after which the engine is told that others are looked at, so that scrolling does not tell it with each row. */
const METERED_AFTER = 150;
/** Redraws of the levels between two of the loads, which nobody reads so fast. */
const LOADS_EVERY = 6;

export type Compare =
    | { kind: 'insert' | 'row'; id: string }
    | { kind: 'plan'; id: number; label: string }
    /** The same insert with other parameters. */
    | { kind: 'setting'; id: string; parameters: Record<string, ParameterValue>; label: string };

/** What is recorded: the track it goes on, and the tap it comes from, "heard", or "input". */
export interface Wish {
    channel: string;
    tap: string;
}

/** Milliseconds after which live inputs are heard again, so that a change of views does not begin twice. */
const STAND_AFTER = 150;

/** Peaks of a take that are drawn while it comes in. */
const MOST_DRAWN = 160;

/** Times it is looked whether a take is on its track. */
const LOOKS = 40;

const louder = (one: number | null, other: number | null) =>
    one === null ? other : other === null ? one : Math.max(one, other);

/** What is heard: playing, where, from which tap, over which loop, comparing what. */
export const useListening = defineStore('listening', () => {
    const session = useSession();
    const survey = useSurvey();
    const hardware = useHardware();
    const isPlaying = ref(false);
    const isWaiting = ref(false);
    const position = ref(0);
    const tap = ref<string | null>(null);
    /** The main is heard beside it: on the left ear, and what is listened at on the right one. */
    const beside = ref(false);
    const loop = ref<{ start: number; end: number } | null>(null);
    const isLooping = ref(false);
    const compare = ref<Compare | null>(null);
    const side = ref<1 | 2>(1);
    /** A narrow boost over a channel, not part of the session. */
    const sweep = ref<Sweep | null>(null);
    /** The insert whose sound is shown by frequency, and what was seen of it last. */
    let watching: string | null = null;
    const watched = shallowRef<Watched | null>(null);
    /** What is recorded onto which tracks, while it is; and how long and loud the takes are so far. */
    const recording = ref<Wish[] | null>(null);
    const recorded = ref<{ seconds: number; peak: number | null; left: number } | null>(null);
    /** Peaks of each take as it comes in, by track. */
    const drawn = shallowRef<Record<string, number[]>>({});
    /** Bars that are played before a recording begins. */
    const countIn = useStorage('hafen.count-in', 0);
    /** A click on each beat while it plays, for the ears only. */
    const click = useStorage('hafen.click', false);
    /** Records inside the loop region only. */
    const isPunching = ref(false);
    /** What of the session is recorded, in samples; null is all that is played. */
    const punch = ref<{ from: number; to: number | null } | null>(null);
    const matchGain = ref<number | null>(0);
    /** LUFS of what is heard, over the last 0.4 and 3 seconds. */
    const loudness = ref<{ momentary: number | null; shortTerm: number | null } | null>(null);
    const load = ref<number | null>(null);
    /** Nothing plays, and live inputs are heard or looked at. */
    const isStanding = ref(false);
    /** The keys that are played on a note channel just now. */
    const played = shallowRef<() => { channel: string; keys: number[][]; controls?: number[][] } | null>(() => null);
    /** Seconds of sound that wait for this browser's loudspeakers. */
    const lead = ref<number | null>(null);
    /** In how many processes the engine plays; the load is that of the one that takes longest. */
    const processes = ref(1);
    const loads = shallowRef<Record<string, number>>({});
    /** Whose levels somebody looks at; the engine is told a moment after it changes. */
    const metered = markRaw(
        new MeteredChannels(() => listeningId && !tellMetered.isPending.value && tellMetered.start()),
    );
    let toldMetered = '';
    const tellMetered = useTimeoutFn(
        () => {
            const ids = metered.ids();
            if (listeningId && JSON.stringify(ids) !== toldMetered) {
                toldMetered = JSON.stringify(ids);
                tellOptions({ metered: ids });
            }
        },
        METERED_AFTER,
        { immediate: false },
    );
    const levels = new LiveLevels((channel) => metered.has(channel));
    /** Counts starts and stops, so that an answer that comes late is known as such. */
    let turns = 0;
    let listeningId: string | null = null;
    /** What the server is told next, and whether it is told something just now. */
    let untold: Record<string, unknown> | null = null;
    let isTelling = false;
    let lastDraw = 0;
    let told = 0;
    let draws = 0;
    let smoothed: Record<string, number> = {};

    const player = new Player({
        layout: (layout) => {
            processes.value = layout.processes ?? 1;
            if (layout.change > (session.state?.change ?? 0)) {
                void session.refresh();
            }
        },
        meters: show,
        notice: (notice) => takeNotice(notice),
        waiting: (waiting) => {
            if (isStanding.value) {
                return;
            }
            isWaiting.value = waiting;
            // One at a time: a notice stands for ten seconds.
            if (waiting && Date.now() - told > 12_000) {
                told = Date.now();
                tell(whyPlaybackPauses(load.value, hardware.heard.length > 0), 'warning');
            }
        },
        ended: (isWhole) => {
            listeningId = null;
            if (isStanding.value) {
                isStanding.value = false;
                hardware.end();
                standAgain.start();
                return;
            }
            isPlaying.value = false;
            isWaiting.value = false;
            // Where it broke off it goes on with the next press.
            position.value = isWhole ? 0 : position.value;
            endRecording();
        },
    });

    /** What drives tests and curious people: the audio that really comes out. */
    Object.assign(window, { hafen: { player } });

    let looks = 0;
    const lookForTake = useTimeoutFn(() => void look(), 400, { immediate: false });

    /** Looks until all that was recorded is on its tracks, however long that takes. */
    async function look(): Promise<void> {
        const { change, notice } = session.state ?? {};
        await session.refresh().catch(() => undefined);
        const isSame = session.state?.change === change && session.state?.notice === notice;
        if ((session.state?.recorded.length ?? 0) > 0 || (isSame && --looks > 0)) {
            lookForTake.start();
        }
    }

    const listeningAt = computed(() => tap.value ?? (session.main ? `${session.main.id}:post-fader` : ''));

    function show(frame: MeterFrame): void {
        levels.take(frame.taps, performance.now() / 1000);
        for (const [key, value] of Object.entries(frame.loads)) {
            smoothed[key] = (smoothed[key] ?? value) * 0.94 + value * 0.06;
        }
        if (performance.now() - lastDraw < REDRAW) {
            return;
        }
        lastDraw = performance.now();
        // In the same frame as the meters: each frame that is drawn takes time of the machine that plays.
        position.value = isStanding.value ? position.value : (player.position() ?? position.value);
        levels.draw();
        load.value = load.value === null ? frame.load : load.value * 0.85 + frame.load * 0.15;
        if (draws++ % LOADS_EVERY === 0) {
            loads.value = { ...smoothed };
            lead.value = player.buffered();
        }
    }

    function takeNotice(notice: Notice): void {
        if (notice.kind === 'fault') {
            const name = session.channel(notice.channel)?.name ?? notice.channel;
            tell(`${name} put out something that is not a sound and was silenced. Its effects were reset.`, 'error');
        } else if (notice.kind === 'refused') {
            tell(notice.message, 'warning');
        } else if (notice.kind === 'process-replaced') {
            tell('A process of the engine ended and was replaced. Some channels were silent for a moment.', 'warning');
        } else if (notice.kind === 'compare') {
            matchGain.value = notice.gain;
        } else if (notice.kind === 'loudness') {
            loudness.value = { momentary: notice.momentary, shortTerm: notice.shortTerm };
        } else if (notice.kind === 'watch') {
            watched.value = notice;
        } else if (notice.kind === 'recording') {
            takeRecorded(notice.takes);
        } else if (notice.kind === 'inputs') {
            hardware.show(notice.ports, notice.late);
        } else if (notice.kind === 'units') {
            tell(
                notice.busy.length > 0
                    ? `${notice.busy.join(' and ')}: something else goes through it. You hear the channel without it until then.`
                    : 'The hardware is free, and heard again.',
                notice.busy.length > 0 ? 'warning' : 'info',
            );
        } else if (notice.kind === 'interface-set') {
            // By this page or another.
            void hardware.load().catch(() => undefined);
            if (!notice.isSame) {
                beginAnew();
            }
        } else if (notice.kind === 'heard-late') {
            tell(`Until the take ends, live inputs are heard ${notice.milliseconds} ms later than said.`, 'warning');
        } else if (notice.kind === 'tap-gone') {
            tap.value = null;
            beside.value = false;
        }
    }

    function takeRecorded(takes: TakeSoFar[]): void {
        recorded.value = {
            seconds: Math.max(0, ...takes.map(({ seconds }) => seconds)),
            peak: takes.reduce((most, { peak }) => louder(most, peak), null as number | null),
            left: Math.min(...takes.map(({ left }) => left)),
        };
        drawn.value = Object.fromEntries(
            takes.map((take) => [
                take.channel ?? '',
                [...(drawn.value[take.channel ?? ''] ?? []), ...take.drawn].slice(-MOST_DRAWN),
            ]),
        );
    }

    function options(): Record<string, unknown> {
        const about = compare.value;
        const ids = metered.ids();
        toldMetered = JSON.stringify(ids);
        return {
            tap: tap.value,
            beside: beside.value && tap.value !== null,
            loop: isLooping.value && loop.value && !punch.value?.to ? loop.value : null,
            punch: punch.value,
            compare: about
                ? about.kind === 'setting'
                    ? { insert: about.id, parameters: about.parameters }
                    : { [about.kind]: about.id }
                : null,
            side: side.value,
            sweep: sweep.value,
            watch: watching,
            record: recording.value,
            metered: ids,
            armed: [...hardware.armed],
            quick: hardware.quick,
            interface: hardware.isLookedAt,
            standing: isStanding.value,
            played: played.value(),
            click: click.value,
        };
    }

    /**
     * @param isSoon - with a short run-in, as sound was running
     * @param isCounted - from bars before the loop or the session, which count in
     */
    async function play(from?: number, isSoon = false, isCounted = false): Promise<void> {
        const state = session.state;
        if (!state || (state.document.length === 0 && !takesInputs())) {
            tell('There is nothing to play yet. Import a file first.');
            return;
        }
        let start = from ?? position.value;
        const isBefore = isCounted || (punch.value !== null && start < punch.value.from);
        if (!isBefore && isLooping.value && loop.value && (start < loop.value.start || start >= loop.value.end)) {
            start = loop.value.start;
        }
        if (start >= state.document.length) {
            start = 0;
        }
        const turn = ++turns;
        leaveStanding();
        isPlaying.value = true;
        survey.isPlaying = true;
        position.value = start;
        levels.begin();
        smoothed = {};
        draws = 0;
        load.value = null;
        try {
            const listening = await api.post<{ id: string; stream: string }>(
                `sessions/${state.id}/listenings`,
                options(),
            );
            // Stopped or started again while the server answered: this stream is not wanted any more.
            if (turn !== turns) {
                void api.put(`listenings/${listening.id}`, { stopped: true }).catch(() => undefined);
                return;
            }
            listeningId = listening.id;
            // Keys that were pressed meanwhile.
            if (played.value()) {
                sendOptions();
            }
            await player.start(
                `${listening.stream}?from=${Math.round(start)}${isSoon ? '&soon=1' : ''}`,
                state.document.sampleRate,
                played.value() !== null,
            );
        } catch (error) {
            if (turn !== turns) {
                return;
            }
            isPlaying.value = false;
            if ((error as Error).name !== 'AbortError') {
                tellRefusal(error);
            }
        }
    }

    /** Ends what is heard while nothing plays. */
    function leaveStanding(): void {
        if (!isStanding.value) {
            return;
        }
        isStanding.value = false;
        player.halt();
        if (listeningId) {
            void api.put(`listenings/${listeningId}`, { stopped: true }).catch(() => undefined);
        }
        listeningId = null;
        hardware.end();
        levels.end();
    }

    /** Whether live sound is wanted while nothing plays. */
    const standsFor = () => hardware.isWanted || played.value() !== null;

    /** Keys that are played were pressed or let go. */
    function tellPlayed(): void {
        if (listeningId) {
            tellOptions({ played: played.value() });
        }
        if (standsFor() && !isPlaying.value) {
            void stand();
        } else if (!isPlaying.value && !hardware.isWanted) {
            leaveStanding();
        }
    }

    /** Lets live inputs and keys be heard, and looked at, while nothing plays. */
    async function stand(): Promise<void> {
        const state = session.state;
        if (!state || isPlaying.value || isStanding.value || !standsFor()) {
            return;
        }
        const turn = ++turns;
        isStanding.value = true;
        levels.begin();
        try {
            const listening = await api.post<{ id: string; stream: string }>(
                `sessions/${state.id}/listenings`,
                options(),
            );
            if (turn !== turns || !isStanding.value) {
                void api.put(`listenings/${listening.id}`, { stopped: true }).catch(() => undefined);
                return;
            }
            listeningId = listening.id;
            // Keys that were pressed meanwhile.
            if (played.value()) {
                sendOptions();
            }
            await player.start(
                `${listening.stream}?from=${Math.round(position.value)}`,
                state.document.sampleRate,
                played.value() !== null,
            );
        } catch (error) {
            if (turn === turns) {
                isStanding.value = false;
                if ((error as Error).name !== 'AbortError') {
                    tellRefusal(error);
                }
            }
        }
    }

    const standAgain = useTimeoutFn(() => void stand(), STAND_AFTER, { immediate: false });

    /** Goes on where it is with another engine: the interface works with another buffer. */
    function beginAnew(): void {
        if (recording.value) {
            tell('The interface works with another buffer now. The take ended there, and is kept.', 'warning');
        }
        if (isPlaying.value) {
            const at = player.position() ?? position.value;
            stop();
            void play(at, true);
        } else {
            leaveStanding();
            standAgain.start();
        }
    }

    const takesInputs = () => recording.value?.some(({ tap: from }) => from === 'input') ?? false;

    function stop(): void {
        turns++;
        leaveStanding();
        position.value = (isPlaying.value ? player.position() : null) ?? position.value;
        player.halt();
        if (listeningId) {
            void api.put(`listenings/${listeningId}`, { stopped: true }).catch(() => undefined);
        }
        listeningId = null;
        isPlaying.value = false;
        isWaiting.value = false;
        endRecording();
    }

    /** Records onto a track from here on; plays where nothing plays yet. */
    async function record(...wishes: Wish[]): Promise<void> {
        recording.value = wishes;
        recorded.value = null;
        drawn.value = {};
        const region = isPunching.value ? loop.value : null;
        const from = region?.start ?? (isPlaying.value ? 0 : recordFrom());
        const bars = isPlaying.value ? 0 : countIn.value;
        punch.value = region || bars > 0 ? { from: Math.round(from), to: region?.end ?? null } : null;
        if (isPlaying.value) {
            sendOptions();
        } else {
            await play(punch.value ? from - bars * samplesOfBar() : undefined);
        }
        if (!isPlaying.value) {
            recording.value = null;
            punch.value = null;
        }
    }

    /** Where a recording begins that is counted in: where the session stands, or the loop. */
    function recordFrom(): number {
        const at = Math.max(0, position.value);
        const isOutside = isLooping.value && loop.value && (at < loop.value.start || at >= loop.value.end);
        return isOutside ? (loop.value?.start ?? at) : at;
    }

    /** Plays the bars of the count-in, and on. */
    function playCounted(): Promise<void> {
        return play(recordFrom() - countIn.value * samplesOfBar(), false, countIn.value > 0);
    }

    /** Of four beats. */
    function samplesOfBar(): number {
        const document = session.document;
        return document ? (4 * 60 * document.sampleRate) / document.tempo : 0;
    }

    /** Ends the recording; it plays on. */
    function stopRecording(): void {
        endRecording();
        sendOptions();
    }

    /** The server puts the take on its track; it is shown once it is there. */
    function endRecording(): void {
        if (recording.value) {
            recording.value = null;
            recorded.value = null;
            punch.value = null;
            looks = LOOKS;
            lookForTake.start();
        }
    }

    async function seek(to: number): Promise<void> {
        const target = Math.max(0, Math.min(to, session.document?.length ?? 0));
        if (isPlaying.value) {
            stop();
            await play(target);
        } else {
            position.value = target;
        }
    }

    /** One after the other, so that no older wish arrives after a newer one: a key that was let go would sound on. */
    function tellOptions(change: Record<string, unknown>): void {
        untold = { ...untold, ...change };
        if (!isTelling) {
            void deliverOptions();
        }
    }

    async function deliverOptions(): Promise<void> {
        isTelling = true;
        while (untold && listeningId) {
            const change = untold;
            untold = null;
            await api.put(`listenings/${listeningId}`, change).catch(tellRefusal);
        }
        untold = null;
        isTelling = false;
    }

    function sendOptions(): void {
        if (listeningId) {
            tellOptions(options());
        }
    }

    function listenAt(key: string | null, besideMain = false): void {
        tap.value = key === `${session.main?.id}:post-fader` ? null : key;
        beside.value = besideMain && tap.value !== null;
        sendOptions();
    }

    function setLoop(region: { start: number; end: number } | null): void {
        loop.value = region;
        isLooping.value = region !== null;
        sendOptions();
    }

    function toggleLoop(): void {
        if (!loop.value) {
            loop.value = { start: 0, end: session.document?.length ?? 0 };
        }
        isLooping.value = !isLooping.value && loop.value.end > loop.value.start;
        sendOptions();
    }

    function startCompare(about: Compare | null): void {
        compare.value = about;
        side.value = 1;
        sendOptions();
    }

    /** Plays a second or two around a moment again and again, at the main, against what remedies would make of it. */
    function hear(about: Compare, moment: number): void {
        const reach = 2 * (session.document?.sampleRate ?? 48000);
        const end = session.document?.length ?? 0;
        stop();
        tap.value = null;
        loop.value = { start: Math.max(0, moment - reach), end: Math.min(end, moment + reach) };
        isLooping.value = true;
        compare.value = about;
        side.value = 2;
        void play(loop.value.start);
    }

    function sweepAt(about: Sweep | null): void {
        sweep.value = about;
        sendOptions();
    }

    function watchInsert(insert: string | null): void {
        if (insert !== watching) {
            watching = insert;
            watched.value = null;
            sendOptions();
        }
    }

    function chooseSide(to: 1 | 2): void {
        if (compare.value) {
            side.value = to;
            sendOptions();
        }
    }

    /** The figure of a tap: live while playing, the survey's maximum when stopped. */
    function level(key: string): TapLevel | null {
        if (isPlaying.value) {
            return levels.level(key);
        }
        const of = key.slice(0, key.indexOf(':'));
        if (isStanding.value && (hardware.heard.includes(of) || played.value()?.channel === of)) {
            return levels.level(key) ?? survey.state?.result?.taps[key] ?? null;
        }
        return survey.state?.result?.taps[key] ?? null;
    }

    // What lies behind the region is not kept anyway: the take is put on its track.
    watch(position, (now) => {
        const to = punch.value?.to;
        if (recording.value && to && now > to + (session.document?.sampleRate ?? 48000) / 4) {
            stopRecording();
        }
    });
    watch(isPlaying, (playing) => {
        survey.isPlaying = playing;
        if (!playing) {
            loudness.value = null;
            levels.end();
        }
    });
    watch(
        [() => hardware.isWanted, isPlaying],
        () => {
            if (standsFor() && !isPlaying.value) {
                standAgain.start();
            } else if (!isPlaying.value) {
                leaveStanding();
            }
        },
        { immediate: true },
    );
    watch(click, sendOptions);
    watch([() => hardware.armed, () => hardware.quick, () => hardware.isLookedAt], sendOptions);
    // What was compared may be removed.
    watch(
        () => session.state?.change,
        () => {
            const about = compare.value;
            // Remedies were found for what the session was.
            const isThere =
                about?.kind === 'row'
                    ? session.channel(about.id)
                    : (about?.kind === 'insert' || about?.kind === 'setting') && session.locate(about.id);
            if (about && !isThere) {
                startCompare(null);
            }
        },
    );
    watch(
        () => session.state?.id,
        () => {
            stop();
            hardware.armed = [];
            position.value = 0;
            tap.value = null;
            loop.value = null;
            isLooping.value = false;
            compare.value = null;
            sweep.value = null;
        },
    );

    return {
        player: markRaw(player),
        isPlaying,
        isWaiting,
        position,
        tap,
        beside,
        listeningAt,
        loop,
        isLooping,
        compare,
        side,
        sweep,
        sweepAt,
        watched,
        watchInsert,
        recording,
        recorded,
        drawn,
        countIn,
        click,
        playCounted,
        recordFrom,
        isPunching,
        record,
        stopRecording,
        matchGain,
        loudness,
        load,
        loads,
        processes,
        isStanding,
        played,
        tellPlayed,
        lead,
        metered,
        play,
        stop,
        seek,
        listenAt,
        setLoop,
        toggleLoop,
        startCompare,
        hear,
        chooseSide,
        level,
        toggle: () => (isPlaying.value ? stop() : void play()),
    };
});
