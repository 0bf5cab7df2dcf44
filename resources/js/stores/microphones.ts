import { defineStore } from 'pinia';
import { markRaw, ref } from 'vue';
import { MicrophoneCapture, type MicrophoneState } from '@/listening/microphone';
import { useHardware } from './hardware';
import { useListening } from './listening';
import { tell } from './notices';
import { useSession } from './session';

/** The microphones of this browser, by the input of the interface they are plugged into. */
export const useMicrophones = defineStore('microphones', () => {
    const session = useSession();
    const listening = useListening();
    const hardware = useHardware();
    const captures = markRaw(new Map<number, MicrophoneCapture>());
    const states = ref<Record<number, MicrophoneState>>({});

    const stateOf = (port: number): MicrophoneState => states.value[port] ?? 'off';

    async function open(port: number): Promise<void> {
        captures.get(port)?.close();
        const capture = new MicrophoneCapture(listening.player, port, (state, why) => {
            const isNew = stateOf(port) !== state;
            states.value = { ...states.value, [port]: state };
            if (why && isNew) {
                tell(why, 'warning');
            }
        });
        captures.set(port, capture);
        await capture.open(session.document?.sampleRate ?? 48000, () => listening.isPlaying);
    }

    function close(port: number): void {
        captures.get(port)?.close();
        captures.delete(port);
    }

    /** Something else is plugged in at an input, or the microphone: then it is opened. */
    async function plug(port: number, kind: string, output?: number): Promise<void> {
        await hardware.set({ input: port, plug: kind, ...(output === undefined ? {} : { output }) });
        const isMicrophone = hardware.state?.inputs[port - 1]?.plug === 'microphone';
        if (isMicrophone && stateOf(port) !== 'on') {
            await open(port);
        } else if (!isMicrophone) {
            close(port);
        }
    }

    return { stateOf, open, close, plug };
});
