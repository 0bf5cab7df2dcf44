import type { BusSource, Clip, ProcessorInsert, SessionDocument } from './session';

/** What the server sends is complete: nothing is left to defaults. */
export type Insert = Required<ProcessorInsert>;

export interface Channel {
    id: string;
    kind: 'track' | 'note' | 'group' | 'return' | 'cue' | 'main';
    name: string;
    width: 'mono' | 'stereo';
    source: { type: 'clips'; clips: Required<Clip>[] } | BusSource;
    trim: { gain: number | null; invert: boolean };
    insertsOn: boolean;
    inserts: Insert[];
    fader: number | null;
    pan: number;
    mute: boolean;
    solo: boolean;
    soloSafe: boolean;
    postInserts: Insert[];
    output: string;
}

export type Session = Omit<Required<SessionDocument>, 'channels'> & { channels: Channel[] };

export type RowName = 'inserts' | 'postInserts';

export interface SessionState {
    id: number;
    change: number;
    revision: number;
    document: Session;
    undo: string | null;
    redo: string | null;
    inserts: Record<string, { label: string; latency: number }>;
    audible: Record<string, boolean>;
    latency: { channels: Record<string, number>; session: number };
}

export interface SessionSummary {
    id: number;
    name: string;
    change: number;
    updated_at: string;
}

export interface Revision {
    id: number;
    parent: number | null;
    label: string;
    at: string;
    current: boolean;
}

export type ParameterValue = number | string | boolean;

export interface ParameterSpec {
    id: string;
    label: string;
    kind: 'number' | 'choice' | 'switch';
    group: string;
    default: ParameterValue;
    unit: string;
    min: number;
    max: number;
    scale: 'linear' | 'logarithmic';
    step: number;
    choices: { value: string; label: string }[];
}

export interface ProcessorSpec {
    id: string;
    name: string;
    category: string;
    purpose: string;
    levelDependent: boolean;
    wetOnly: boolean;
    widens: boolean;
    synonyms: string[];
    parameters: ParameterSpec[];
}

export interface Axis {
    unit: string;
    min: number;
    max: number;
    scale: 'linear' | 'logarithmic';
}

export interface PictureHandle {
    label: string;
    x: number;
    y: number;
    xParameter: string | null;
    yParameter: string | null;
}

export interface Picture {
    title: string;
    x: Axis;
    y: Axis;
    curves: { label: string; points: [number, number][] }[];
    handles: PictureHandle[];
    reading: 'transfer' | null;
}

export interface TapLevel {
    peak: number | null;
    rms: number | null;
    overs: number;
    reduction: number;
}

export interface SurveyState {
    current: boolean;
    running: number | null;
    message: string | null;
    result: {
        frames: number;
        taps: Record<string, TapLevel>;
        overview: number[];
        loads: Record<string, number>;
        faults: string[];
    } | null;
}

export interface RenderState {
    id: string;
    name: string;
    status: 'waiting' | 'running' | 'stopping' | 'done' | 'stopped' | 'failed';
    progress: number;
    message: string | null;
    result: {
        frames: number;
        peak: number | null;
        peakAt: number;
        clipped: number;
        firstClip: number | null;
        faults: string[];
    } | null;
}

export interface MediaState {
    id: string;
    name: string;
    status: 'preparing' | 'ready' | 'failed';
    message: string | null;
    sampleRate: number | null;
    channels: number | null;
    format: string | null;
    length: number | null;
    overview: number[] | null;
}

export interface Preset {
    id: number;
    processor: string;
    name: string;
    parameters: Record<string, ParameterValue>;
}

/** An edit as the server takes it; docs/formats/edits.md lists them. */
export type Edit = { type: string } & Record<string, unknown>;
