import { api, Refused } from '@/api/client';
import type { Player } from './player';

/** How the browser's microphone stands. */
export type MicrophoneState = 'off' | 'asking' | 'on' | 'away' | 'failed';

interface Piece {
    /** Number of its first frame since the capture began. */
    first: number;
    samples: Float32Array<ArrayBuffer>;
    /** When its first frame was captured, in milliseconds since 1970. */
    captured: number;
    /** Sample of the session that was heard then. */
    heard: number | null;
}

/** Seconds of sound that are kept while the server does not answer. */
const MOST_WAITING = 4;
/** Frames that are sent at once, when some had to wait. */
const MOST_AT_ONCE = 32_768;
/** Milliseconds after which it is tried again. */
const TRY_AGAIN = 300;

const WORDS: Record<string, string> = {
    NotAllowedError:
        'This browser may not use a microphone here. Allow it for this page in its settings, and open it again.',
    NotFoundError: 'There is no microphone on this machine. Plug one in, and open it again.',
    NotReadableError: 'The microphone cannot be opened: another program may use it. Close that, and open it again.',
};

/** What the microphone hears, sent piece by piece to one input of the interface. */
export class MicrophoneCapture {
    private stream: MediaStream | null = null;
    private node: AudioWorkletNode | null = null;
    private waiting: Piece[] = [];
    private isSending = false;
    private id = '';
    private beganAt: number | null = null;

    /**
     * @param player - whose sound is played to, and whose clock it shares
     * @param say - told how it stands, and why it failed
     */
    constructor(
        private readonly player: Player,
        private readonly port: number,
        private readonly say: (state: MicrophoneState, why?: string) => void,
    ) {}

    async open(sampleRate: number, isPlaying: () => boolean): Promise<void> {
        this.say('asking');
        try {
            // As it is: no processing of the browser's.
            const stream = await navigator.mediaDevices.getUserMedia({
                audio: { channelCount: 1, echoCancellation: false, noiseSuppression: false, autoGainControl: false },
            });
            this.stream = stream;
            const context = await this.player.open(sampleRate);
            await context.audioWorklet.addModule('/microphone.js');
            const [track] = stream.getAudioTracks();
            track?.addEventListener('ended', () =>
                this.fail('The microphone was taken away. What was recorded until then is kept.'),
            );
            context.addEventListener('statechange', () => {
                if (context.state === 'closed' && this.stream) {
                    this.close();
                    void this.open(this.player.rate() ?? sampleRate, isPlaying);
                }
            });
            this.id = Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) =>
                byte.toString(16).padStart(2, '0'),
            ).join('');
            this.beganAt = null;
            const source = context.createMediaStreamSource(stream);
            const node = new AudioWorkletNode(context, 'microphone', { channelCount: 1, channelCountMode: 'explicit' });
            const latency = (track?.getSettings() as { latency?: number } | undefined)?.latency ?? 0;
            node.port.onmessage = ({ data }: MessageEvent<{ frame: number; samples: Float32Array<ArrayBuffer> }>) => {
                const time = data.frame / context.sampleRate;
                // It passed the microphone a little earlier, and what is played is heard a little later.
                const apart = latency + (context.outputLatency || context.baseLatency || 0);
                const ago = context.currentTime - time + latency;
                this.beganAt ??= data.frame;
                this.take(
                    {
                        first: data.frame - this.beganAt,
                        samples: data.samples,
                        captured: performance.timeOrigin + performance.now() - 1000 * ago,
                        heard: isPlaying() ? this.player.positionAt(time - apart) : null,
                    },
                    context.sampleRate,
                );
            };
            source.connect(node);
            // It is pulled only where it leads somewhere; it puts out nothing.
            node.connect(context.destination);
            this.node = node;
            this.say('on');
        } catch (error) {
            const { name, message } = error as Error;
            this.fail(WORDS[name] ?? `The microphone cannot be opened: ${message}`);
        }
    }

    close(): void {
        this.stop();
        this.say('off');
    }

    private stop(): void {
        this.node?.disconnect();
        this.node = null;
        const stream = this.stream;
        this.stream = null;
        stream?.getTracks().forEach((track) => track.stop());
        this.waiting = [];
    }

    private fail(why: string): void {
        this.stop();
        this.say('failed', why);
    }

    private take(piece: Piece, rate: number): void {
        this.waiting.push(piece);
        // What is older would come too late anyway.
        while (this.waiting.length * piece.samples.length > MOST_WAITING * rate) {
            this.waiting.shift();
        }
        void this.send(rate);
    }

    private async send(rate: number): Promise<void> {
        if (this.isSending) {
            return;
        }
        this.isSending = true;
        while (this.stream && this.waiting.length > 0) {
            const [first, ...more] = this.waiting as [Piece, ...Piece[]];
            // Those that follow right behind it.
            const together = [first];
            for (const piece of more) {
                const { length } = first.samples;
                if (
                    piece.first !== first.first + together.length * length ||
                    (together.length + 1) * length > MOST_AT_ONCE
                ) {
                    break;
                }
                together.push(piece);
            }
            const query = new URLSearchParams({
                id: this.id,
                rate: String(rate),
                first: String(first.first),
                captured: String(Math.round(first.captured)),
                ...(first.heard === null ? {} : { heard: String(first.heard) }),
            });
            try {
                await api.post(
                    `interface/microphones/${this.port}?${query.toString()}`,
                    new Blob(together.map(({ samples }) => samples)),
                );
                this.waiting = this.waiting.filter((piece) => !together.includes(piece));
                if (this.stream) {
                    this.say('on');
                }
            } catch (error) {
                if (!(error instanceof Refused && error.isAway)) {
                    this.fail((error as Error).message);
                } else {
                    this.say('away', 'Hafen does not answer. What the microphone hears waits for it.');
                    await new Promise((resolve) => setTimeout(resolve, TRY_AGAIN));
                }
            }
        }
        this.isSending = false;
    }
}
