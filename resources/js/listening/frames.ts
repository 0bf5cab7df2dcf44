/** Frames of a listening stream, see docs/formats/listening.md. */
export interface Layout {
    sampleRate: number;
    length: number;
    change: number;
    position: number;
    taps: string[];
    loads: string[];
    tap: string;
    /** In how many the engine runs. */
    processes?: number;
    /** Of the audio interface, in samples; null where it is not open. */
    buffer?: number | null;
}

export interface AudioFrame {
    position: number;
    left: Float32Array;
    right: Float32Array;
}

export interface TapNow {
    peak: number;
    rms: number;
    overs: number;
    reduction: number;
}

export interface MeterFrame {
    position: number;
    load: number;
    /** Of those that are read. */
    taps: Record<string, TapNow>;
    loads: Record<string, number>;
}

/** Of a band: RMS in dBFS now, in quiet and in loud moments; null is silence. */
export type BandRange = [now: number | null, quiet: number | null, loud: number | null];

/** The sound by frequency before and behind an insert, and in each band of an equaliser. */
export interface Watched {
    insert: string;
    /** Hz, of `before` and `after`. */
    frequencies: number[];
    before: BandRange[];
    after: BandRange[];
    bands: Record<string, BandRange>;
}

/** A take that is being recorded: its peaks since last told, and the seconds the disk has room for. */
export interface TakeSoFar {
    channel: string | null;
    seconds: number;
    peak: number | null;
    drawn: number[];
    left: number;
}

export type Notice =
    | ({ kind: 'watch' } & Watched)
    | { kind: 'recording'; takes: TakeSoFar[] }
    | {
          kind: 'inputs';
          ports: Record<string, [peak: number | null, average: number | null, clipped: number]>;
          /** Seconds from a browser's microphone to the engine, by port. */
          late?: Record<string, number>;
      }
    | { kind: 'interface-set'; isSame: boolean }
    | { kind: 'heard-late'; milliseconds: number }
    /** Names of the hardware loops that are not heard, as something else goes through them. */
    | { kind: 'units'; busy: string[] }
    | { kind: 'fault'; channel: string; position: number }
    | { kind: 'refused'; message: string }
    | { kind: 'tap-gone'; tap: string }
    | { kind: 'process-replaced'; position: number }
    | { kind: 'loudness'; momentary: number | null; shortTerm: number | null }
    | { kind: 'compare'; side: number; gain: number | null };

export interface FrameReceiver {
    layout(layout: Layout): void;
    audio(frame: AudioFrame): void;
    meters(frame: MeterFrame): void;
    notice(notice: Notice): void;
    end(): void;
}

const HEADER_LENGTH = 8;

/** Takes bytes as they arrive and hands on whole frames. */
export class FrameParser {
    private buffer = new Uint8Array(0);
    private started = false;
    private layout: Layout | null = null;

    constructor(private readonly receiver: FrameReceiver) {}

    take(bytes: Uint8Array): void {
        const joined = new Uint8Array(this.buffer.length + bytes.length);
        joined.set(this.buffer);
        joined.set(bytes, this.buffer.length);
        let at = 0;
        if (!this.started) {
            if (joined.length < HEADER_LENGTH) {
                this.buffer = joined;
                return;
            }
            if (new TextDecoder().decode(joined.subarray(0, 6)) !== 'HAFEN1') {
                throw new Error('This is not a listening stream.');
            }
            this.started = true;
            at = HEADER_LENGTH;
        }
        const view = new DataView(joined.buffer);
        while (joined.length - at >= 5) {
            const length = view.getUint32(at + 1, true);
            if (joined.length - at - 5 < length) {
                break;
            }
            this.frame(String.fromCharCode(joined[at] ?? 0), joined.slice(at + 5, at + 5 + length));
            at += 5 + length;
        }
        this.buffer = joined.slice(at);
    }

    private frame(kind: string, payload: Uint8Array): void {
        const view = new DataView(payload.buffer, payload.byteOffset, payload.byteLength);
        if (kind === 'L') {
            this.layout = JSON.parse(new TextDecoder().decode(payload)) as Layout;
            this.receiver.layout(this.layout);
        } else if (kind === 'N') {
            this.receiver.notice(JSON.parse(new TextDecoder().decode(payload)) as Notice);
        } else if (kind === 'E') {
            this.receiver.end();
        } else if (kind === 'A') {
            const count = view.getUint32(8, true);
            const samples = new Float32Array(payload.slice(12).buffer);
            this.receiver.audio({
                position: view.getFloat64(0, true),
                left: samples.subarray(0, count),
                right: samples.subarray(count, 2 * count),
            });
        } else if (kind === 'M' && this.layout) {
            this.receiver.meters(
                this.meters(view.getFloat64(0, true), new Float32Array(payload.slice(8).buffer), this.layout),
            );
        }
    }

    private meters(position: number, numbers: Float32Array, layout: Layout): MeterFrame {
        let at = 1;
        const next = () => numbers[at++] ?? 0;
        const taps: Record<string, TapNow> = {};
        for (const key of layout.taps) {
            const now = { peak: next(), rms: next(), overs: next(), reduction: next() };
            if (!Number.isNaN(now.peak)) {
                taps[key] = now;
            }
        }
        const loads: Record<string, number> = {};
        for (const key of layout.loads) {
            loads[key] = next();
        }
        return { position, load: numbers[0] ?? 0, taps, loads };
    }
}
