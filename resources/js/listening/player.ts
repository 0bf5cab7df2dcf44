import { FrameParser, type AudioFrame, type FrameReceiver, type Layout, type MeterFrame, type Notice } from './frames';

export interface PlayerEvents {
    layout(layout: Layout): void;
    meters(frame: MeterFrame): void;
    notice(notice: Notice): void;
    /** Playback ran dry and waits for the engine, or goes on again. */
    waiting(waiting: boolean): void;
    /** @param isWhole whether all of it came, to the end */
    ended(isWhole: boolean): void;
}

/** Seconds of sound gathered before it starts, and after it ran dry. */
const FIRST_MARGIN = 0.06;
/** The same, and the seconds until it starts, where somebody plays keys. */
const NEAR_MARGIN = 0.03;
const NEAR_START = 0.012;
const START = 0.03;
/** The same where the engine has little time to spare, so that one late piece is not heard. */
const HEAVY_MARGIN = 0.25;
const HEAVY_LOAD = 0.5;
const AGAIN_MARGIN = 0.3;
/** Seconds for which it is known what was played. */
const REMEMBERED = 0.5;

/**
 * Plays a listening stream with Web Audio: each piece is scheduled right behind the one before it, and the
 * meters that belong to it are shown when it sounds.
 */
export class Player implements FrameReceiver {
    private context: AudioContext | null = null;
    private out: AudioNode | null = null;
    private abort: AbortController | null = null;
    private sources = new Set<AudioBufferSourceNode>();
    private next = 0;
    private gathered: AudioFrame[] = [];
    private margin = FIRST_MARGIN;
    private isDry = true;
    private isNear = false;
    private finished = false;
    /** Whether the stream ended before it said so. */
    private isBroken = false;
    private timeline: { time: number; position: number; duration: number }[] = [];
    private readings: { time: number; frame: MeterFrame }[] = [];
    private timer: number | undefined;

    /** Reads what really leaves for the loudspeakers. */
    analyser: AnalyserNode | null = null;

    constructor(private readonly events: PlayerEvents) {}

    /** @param isNear - starts as soon as it can, for who plays keys */
    async start(url: string, sampleRate: number, isNear = false): Promise<void> {
        this.halt();
        const abort = new AbortController();
        this.abort = abort;
        const context = await this.open(sampleRate);
        // Stopped or started anew meanwhile: two streams would sound at once.
        if (abort.signal.aborted) {
            return;
        }
        const gain = new GainNode(context);
        gain.connect(this.analyser as AnalyserNode);
        this.out = gain;
        this.next = 0;
        this.isDry = true;
        this.finished = this.isBroken = false;
        this.isNear = isNear;
        this.margin = isNear ? NEAR_MARGIN : FIRST_MARGIN;
        this.timer = window.setInterval(() => this.tick(), 40);
        const response = await fetch(url, { signal: abort.signal });
        if (!response.ok || !response.body) {
            const answer = (await response.json().catch(() => ({}))) as { message?: string };
            throw new Error(answer.message ?? `The listening stream answered with status ${response.status}.`);
        }
        void this.receive(response.body, abort);
    }

    /** The clock it plays by, at a rate; one at another rate is closed. */
    async open(sampleRate: number): Promise<AudioContext> {
        let context = this.context;
        if (!context || context.sampleRate !== sampleRate) {
            const before = context;
            context = this.context = new AudioContext({ sampleRate, latencyHint: 'interactive' });
            this.analyser = new AnalyserNode(context, { fftSize: 2048 });
            this.analyser.connect(context.destination);
            await before?.close();
        }
        await context.resume();
        return context;
    }

    /** Samples a second; null before it was opened. */
    rate(): number | null {
        return this.context?.sampleRate ?? null;
    }

    /** The sample that left at a time of its clock, not long ago; null where none did. */
    positionAt(time: number): number | null {
        for (let i = this.timeline.length - 1; i >= 0; i--) {
            const entry = this.timeline[i];
            if (entry && entry.time <= time) {
                return time <= entry.time + entry.duration
                    ? entry.position + (time - entry.time) * (this.context?.sampleRate ?? 1)
                    : null;
            }
        }
        return null;
    }

    /** Ends at once: what was scheduled is dropped. */
    halt(): void {
        this.abort?.abort();
        this.abort = null;
        window.clearInterval(this.timer);
        for (const source of this.sources) {
            source.stop();
        }
        this.sources.clear();
        this.out?.disconnect();
        this.out = null;
        this.gathered = [];
        this.timeline = [];
        this.readings = [];
    }

    /** The sample that sounds now. */
    position(): number | null {
        const now = this.context?.currentTime ?? 0;
        let found: number | null = null;
        for (const entry of this.timeline) {
            if (entry.time <= now) {
                const into = Math.min(now - entry.time, entry.duration);
                found = entry.position + into * (this.context?.sampleRate ?? 1);
            }
        }
        return found;
    }

    /** Seconds of sound scheduled ahead. */
    buffered(): number {
        return Math.max(0, this.next - (this.context?.currentTime ?? 0));
    }

    layout(layout: Layout): void {
        this.events.layout(layout);
    }

    audio(frame: AudioFrame): void {
        this.gathered.push(frame);
        // Late by less than a tick as well: two pieces would sound at once.
        if (!this.isDry && this.next <= (this.context?.currentTime ?? 0)) {
            this.runDry();
        }
        if (!this.isDry) {
            this.schedule();
            return;
        }
        const rate = this.context?.sampleRate ?? 1;
        const seconds = this.gathered.reduce((sum, entry) => sum + entry.left.length / rate, 0);
        if (seconds >= this.margin) {
            this.startAgain();
        }
    }

    meters(frame: MeterFrame): void {
        if (this.isDry && !this.isNear && frame.load > HEAVY_LOAD) {
            this.margin = Math.max(this.margin, HEAVY_MARGIN);
        }
        this.readings.push({ time: this.isDry ? Infinity : this.timeOf(frame.position), frame });
    }

    notice(notice: Notice): void {
        this.events.notice(notice);
    }

    end(): void {
        this.finished = true;
        if (this.isDry && this.gathered.length > 0) {
            this.startAgain();
        }
    }

    private async receive(body: ReadableStream<Uint8Array>, abort: AbortController): Promise<void> {
        const parser = new FrameParser(this);
        const reader = body.getReader();
        try {
            for (;;) {
                const { done, value } = await reader.read();
                if (done || abort.signal.aborted) {
                    break;
                }
                parser.take(value);
            }
            // An older stream says nothing of the one that plays now.
            if (!abort.signal.aborted && !this.finished) {
                this.breakOff('the server ended the stream in the middle. Play again; its log says why.');
            }
        } catch (error) {
            if (!abort.signal.aborted) {
                this.breakOff((error as Error).message);
            }
        }
    }

    private breakOff(why: string): void {
        this.isBroken = true;
        this.events.notice({ kind: 'refused', message: `Listening broke off: ${why}` });
        this.end();
    }

    /** Gathers sound before it goes on: twice as much as before where it starts near. */
    private runDry(): void {
        this.isDry = true;
        this.margin = this.isNear ? Math.min(AGAIN_MARGIN, 2 * this.margin) : AGAIN_MARGIN;
        this.events.waiting(true);
    }

    private startAgain(): void {
        const now = this.context?.currentTime ?? 0;
        this.next = now + (this.isNear ? NEAR_START : START);
        this.isDry = false;
        this.events.waiting(false);
        this.schedule();
        for (const reading of this.readings) {
            if (reading.time === Infinity) {
                reading.time = this.timeOf(reading.frame.position);
            }
        }
    }

    private schedule(): void {
        const context = this.context;
        if (!context || !this.out) {
            return;
        }
        for (const frame of this.gathered.splice(0)) {
            const buffer = context.createBuffer(2, frame.left.length, context.sampleRate);
            buffer.copyToChannel(frame.left as Float32Array<ArrayBuffer>, 0);
            buffer.copyToChannel(frame.right as Float32Array<ArrayBuffer>, 1);
            const source = new AudioBufferSourceNode(context, { buffer });
            source.connect(this.out);
            source.start(this.next);
            source.onended = () => {
                this.sources.delete(source);
                source.disconnect();
            };
            this.sources.add(source);
            this.timeline.push({ time: this.next, position: frame.position, duration: buffer.duration });
            this.next += buffer.duration;
        }
    }

    private timeOf(position: number): number {
        for (let i = this.timeline.length - 1; i >= 0; i--) {
            const entry = this.timeline[i];
            if (entry && entry.position === position) {
                return entry.time;
            }
        }
        return this.next;
    }

    private tick(): void {
        const now = this.context?.currentTime ?? 0;
        const due = this.readings.filter((reading) => reading.time <= now);
        this.readings = this.readings.filter((reading) => reading.time > now);
        for (const { frame } of due) {
            this.events.meters(frame);
        }
        while (this.timeline.length > 2 && (this.timeline[1]?.time ?? Infinity) <= now - REMEMBERED) {
            this.timeline.shift();
        }
        if (!this.isDry && this.next <= now) {
            if (this.finished) {
                this.halt();
                this.events.ended(!this.isBroken);
            } else {
                this.runDry();
            }
        } else if (this.isDry && this.finished && this.gathered.length === 0) {
            this.halt();
            this.events.ended(!this.isBroken);
        }
    }
}
