import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { useNoteEdits, type PlacedNote } from '@/composables/useNoteEdits';
import { useControllers } from './controllers';
import { useListening } from './listening';
import { useSession } from './session';

/** Keys of the computer from a C on, as they lie. */
const COMPUTER = ['a', 'w', 's', 'e', 'd', 'f', 't', 'g', 'y', 'h', 'u', 'j', 'k', 'o', 'l', 'p'];
const VELOCITY = 96;
/** Milliseconds a key is held at least, so that the server sees it. */
const SHORTEST = 150;
/** Part of a beat by which the first note may come before what is recorded. */
const EARLY = 1 / 8;
/** Numbers of the pitch wheel and of the sustain pedal, as documents have them. */
const BEND = 128;

/** A note channel that is played: by the keys of the computer, and by those of controllers. */
export const useKeysPlayed = defineStore('keys', () => {
    const session = useSession();
    const listening = useListening();
    const controllers = useControllers();

    const channel = ref<string | null>(null);
    const lowest = ref(60);
    /** Velocity and number of each key that is down. */
    const held = ref<Record<number, [number, number]>>({});
    /** Values of controllers and of the pitch wheel, by number. */
    const controls = ref<Record<number, number>>({});
    const isRecording = ref(false);
    /** Tick from which notes are kept: what is played while it is counted in is not. */
    let keptFrom = 0;
    const pressedAt = new Map<number, { at: number; time: number; velocity: number }>();
    const taken: Omit<PlacedNote, 'clip'>[] = [];
    /** Tick, number and value of each movement. */
    const moved: [number, number, number][] = [];
    let number = 0;

    const found = computed(() => session.channels.find(({ id }) => id === channel.value) ?? null);
    const edits = useNoteEdits(() => found.value ?? session.channels[0]!);
    const played = computed(() =>
        found.value === null
            ? null
            : {
                  channel: found.value.id,
                  keys: Object.entries(held.value).map(([key, [velocity, count]]) => [Number(key), velocity, count]),
                  controls: Object.entries(controls.value).map(([number, value]) => [Number(number), value]),
              },
    );
    listening.played = () => played.value;
    watch(played, () => listening.tellPlayed());

    const ticks = (samples: number) => {
        const document = session.document;
        return document ? Math.round((samples * document.tempo * edits.perBeat) / (60 * document.sampleRate)) : 0;
    };

    function open(id: string): void {
        close();
        channel.value = id;
        controllers.played = fromController;
    }

    function close(): void {
        letGo();
        void endRecording();
        channel.value = null;
        controllers.played = null;
    }

    function letGo(): void {
        [...pressedAt.keys()].forEach(release);
        held.value = {};
        controls.value = {};
    }

    /** The sample that sounds now: what is played belongs to what was heard. */
    const heardAt = () => listening.player.position() ?? listening.position;

    function press(key: number, velocity = VELOCITY): void {
        if (channel.value === null || key < 0 || key > 127 || held.value[key]) {
            return;
        }
        held.value = { ...held.value, [key]: [velocity, ++number] };
        pressedAt.set(key, { at: heardAt(), time: Date.now(), velocity });
    }

    function release(key: number): void {
        const pressed = pressedAt.get(key);
        const count = held.value[key]?.[1];
        if (!pressed) {
            return;
        }
        pressedAt.delete(key);
        if (isRecording.value && listening.isPlaying) {
            const at = ticks(pressed.at);
            const until = ticks(heardAt());
            // A note that is held while the loop begins anew ends with the loop.
            const end = until < at && listening.loop ? ticks(listening.loop.end) : until;
            if (at >= keptFrom - EARLY * edits.perBeat) {
                const start = Math.max(at, keptFrom);
                taken.push({ at: start, length: Math.max(30, end - start), key, velocity: pressed.velocity });
            }
        }
        window.setTimeout(
            () => {
                if (held.value[key]?.[1] === count) {
                    held.value = Object.fromEntries(
                        Object.entries(held.value).filter(([other]) => Number(other) !== key),
                    );
                }
            },
            Math.max(0, SHORTEST - (Date.now() - pressed.time)),
        );
    }

    function fromController(_port: string, status: number, key: number, velocity: number): void {
        if ((status & 0xf0) === 0x90 && velocity > 0) {
            press(key, velocity);
        } else if ((status & 0xf0) === 0x80 || (status & 0xf0) === 0x90) {
            release(key);
        } else if ((status & 0xf0) === 0xb0) {
            control(key, velocity);
        } else if ((status & 0xf0) === 0xe0) {
            control(BEND, velocity * 128 + key - 8192);
        }
    }

    /** A controller or the pitch wheel is moved. */
    function control(number: number, value: number): void {
        controls.value = { ...controls.value, [number]: value };
        const at = ticks(heardAt());
        if (isRecording.value && listening.isPlaying && at >= keptFrom) {
            moved.push([at, number, value]);
        }
    }

    /** Begins to keep what is played, and plays from where the session stands, counted in where bars are set. */
    async function record(): Promise<void> {
        taken.length = moved.length = 0;
        isRecording.value = true;
        keptFrom = listening.isPlaying ? 0 : ticks(listening.recordFrom());
        if (!listening.isPlaying) {
            await listening.playCounted();
        }
    }

    /** Puts what was played into the clips of the channel, as one step. */
    async function endRecording(): Promise<void> {
        if (!isRecording.value) {
            return;
        }
        [...pressedAt.keys()].forEach(release);
        isRecording.value = false;
        if (taken.length + moved.length > 0 && found.value && !(await edits.add(taken, moved)) && found.value) {
            // Nothing is lost: "keep" tries again.
            isRecording.value = true;
            return;
        }
        taken.length = moved.length = 0;
    }

    function isTyping(target: EventTarget | null): boolean {
        return Boolean((target as HTMLElement | null)?.closest?.('input, textarea, select, [contenteditable]'));
    }

    function down(event: KeyboardEvent): void {
        if (channel.value === null || isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) {
            return;
        }
        const name = event.key.toLowerCase();
        const place = COMPUTER.indexOf(name);
        const octave = { z: -12, x: 12 }[name];
        if (place < 0 && octave === undefined && event.key !== 'Escape') {
            return;
        }
        event.preventDefault();
        event.stopPropagation();
        if (event.key === 'Escape') {
            close();
        } else if (octave !== undefined) {
            letGo();
            lowest.value = Math.min(108, Math.max(0, lowest.value + octave));
        } else if (!event.repeat) {
            press(lowest.value + place);
        }
    }

    function up(event: KeyboardEvent): void {
        const place = COMPUTER.indexOf(event.key.toLowerCase());
        if (channel.value !== null && place >= 0) {
            release(lowest.value + place);
        }
    }

    useEventListener(window, 'keydown', down, { capture: true });
    useEventListener(window, 'keyup', up, { capture: true });
    // Whoever looks away, or loses the controller, holds nothing any more.
    useEventListener(window, 'blur', letGo);
    useEventListener(window, 'pagehide', close);
    watch(() => controllers.ports.length, letGo);
    watch(
        () => [session.state?.id, found.value === null],
        () => channel.value !== null && found.value === null && close(),
    );
    watch(
        () => listening.isPlaying,
        (isPlaying) => isPlaying || void endRecording(),
    );

    return { channel, lowest, held, controls, isRecording, open, close, press, release, record, endRecording };
});
