import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import type { Edit } from '@/api/edits';
import { controlOf, findControl, type Control } from '@/controllers/controls';
import { Takeover } from '@/controllers/takeover';
import { newGesture } from '@/gesture';
import { useCatalogue } from './catalogue';
import { useListening } from './listening';
import { useSession } from './session';

/** A knob or key of a controller, and what it moves. */
export interface Mapping {
    /** Name of the controller. */
    port: string;
    message: 'knob' | 'key';
    /** 1 to 16. */
    channel: number;
    number: number;
    /** As {@see controlOf} names it, or "play" and "record". */
    target: string;
}

type Access = 'off' | 'asking' | 'on' | 'refused' | 'missing';

/** Milliseconds without a movement after which the next is one of its own. */
const PAUSE = 600;

/** Controllers at this machine: what their knobs and keys move. Kept in this browser, session by session. */
export const useControllers = defineStore('controllers', () => {
    const session = useSession();
    const catalogue = useCatalogue();
    const listening = useListening();

    const access = ref<Access>('off');
    const ports = ref<string[]>([]);
    const mappings = ref<Mapping[]>([]);
    /** What is learned: nothing, a control that waits for a knob, or (true) a control that is to be moved first. */
    const learning = ref<string | boolean>(false);

    const key = computed(() => `hafen.controllers.${session.state?.id ?? 0}`);
    const takeovers = new Map<string, Takeover>();
    const gestures = new Map<string, { word: string; at: number }>();
    /** Others are told of what is played on keys that nothing is mapped to. */
    const played = ref<((port: string, status: number, one: number, two: number) => void) | null>(null);

    watch(
        key,
        (name) => {
            try {
                mappings.value = JSON.parse(localStorage.getItem(name) ?? '[]') as Mapping[];
            } catch {
                mappings.value = [];
            }
        },
        { immediate: true },
    );

    function keep(next: Mapping[]): void {
        mappings.value = next;
        localStorage.setItem(key.value, JSON.stringify(next));
    }

    async function connect(): Promise<void> {
        if (!navigator.requestMIDIAccess) {
            access.value = 'missing';
            return;
        }
        access.value = 'asking';
        try {
            const midi = await navigator.requestMIDIAccess();
            const look = () => {
                ports.value = [...midi.inputs.values()].filter(({ state }) => state === 'connected').map(nameOf);
                midi.inputs.forEach(
                    (input) => (input.onmidimessage = (event) => event.data && hear(nameOf(input), event.data)),
                );
            };
            midi.onstatechange = look;
            look();
            access.value = 'on';
        } catch {
            access.value = 'refused';
        }
    }

    const nameOf = (input: MIDIInput): string => input.name ?? 'Controller';

    function hear(port: string, data: Uint8Array): void {
        const [status = 0, number = 0, value = 0] = data;
        const kind = status & 0xf0;
        const channel = (status & 0x0f) + 1;
        const message = kind === 0xb0 ? 'knob' : kind === 0x90 || kind === 0x80 ? 'key' : null;
        const isDown = message === 'knob' || (kind === 0x90 && value > 0);
        if (message && isDown && typeof learning.value === 'string') {
            bind({ port, message, channel, number, target: learning.value });
            return;
        }
        const mapped = message
            ? mappings.value.filter(
                  (one) =>
                      one.port === port && one.message === message && one.channel === channel && one.number === number,
              )
            : [];
        for (const one of mapped) {
            move(one, value / 127, isDown);
        }
        if (mapped.length === 0) {
            played.value?.(port, status, number, value);
        }
    }

    function bind(mapping: Mapping): void {
        const same = (one: Mapping) =>
            one.target === mapping.target ||
            (one.port === mapping.port &&
                one.message === mapping.message &&
                one.channel === mapping.channel &&
                one.number === mapping.number);
        keep([...mappings.value.filter((one) => !same(one)), mapping]);
        learning.value = false;
    }

    function forget(mapping: Mapping): void {
        keep(mappings.value.filter((one) => one !== mapping));
    }

    function controlFor(target: string): Control | null {
        return findControl(target, {
            channels: session.channels,
            specOf: (id) => catalogue.byId[id],
            labelOf: (id) => session.state?.inserts[id]?.label ?? id,
        });
    }

    function nameFor(target: string): string {
        return target === 'play'
            ? 'Play and stop'
            : target === 'record'
              ? 'Record'
              : (controlFor(target)?.name ?? 'what is not in the session any more');
    }

    function move(mapping: Mapping, place: number, isDown: boolean): void {
        const isPress = mapping.message === 'key' ? isDown : place >= 0.5;
        if (mapping.target === 'play' || mapping.target === 'record') {
            if (isPress) {
                pressTransport(mapping.target);
            }
            return;
        }
        const control = controlFor(mapping.target);
        if (!control) {
            return;
        }
        if (control.isSwitch) {
            pressSwitch(mapping, control, isPress);
        } else if (mapping.message === 'knob' && takes(mapping.target, place, control.place ?? 0)) {
            void session.edit(control.at(place), gestureOf(mapping.target));
        }
    }

    function pressTransport(target: 'play' | 'record'): void {
        if (target === 'play') {
            void listening.toggle();
        } else {
            window.dispatchEvent(new KeyboardEvent('keydown', { key: 'r' }));
        }
    }

    /** A key turns a switch over; a knob puts it where it stands. */
    function pressSwitch(mapping: Mapping, control: Control, isPress: boolean): void {
        if (control.place === null || mapping.message === 'key') {
            if (isPress) {
                void session.edit(control.at(1 - (control.place ?? 0)));
            }
        } else if (isPress !== control.place >= 0.5) {
            void session.edit(control.at(isPress ? 1 : 0));
        }
    }

    function takes(target: string, place: number, stands: number): boolean {
        const takeover = takeovers.get(target) ?? new Takeover();
        takeovers.set(target, takeover);
        return takeover.takes(place, stands);
    }

    function gestureOf(target: string): string {
        const before = gestures.get(target);
        const word = before && Date.now() - before.at < PAUSE ? before.word : newGesture();
        gestures.set(target, { word, at: Date.now() });
        return word;
    }

    /** While it learns, the control that is moved on the screen is the one that is learned. */
    session.onEdit = (edit: Edit) => {
        if (learning.value !== false) {
            learning.value = controlOf(edit) ?? learning.value;
        }
    };

    return { access, ports, mappings, learning, played, connect, hear, bind, forget, nameFor };
});
