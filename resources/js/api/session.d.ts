/* Made from docs/formats/session.schema.json by "npm run types". Do not edit. */

export type Name = string;
export type Id = string;
export type Source = ClipSource | NoteSource | BusSource | TapSource | InputSource;
export type Position = number;
/**
 * dB; null is silence
 */
export type Gain = number | null;
export type Insert = ProcessorInsert | Split | HardwareInsert;
/**
 * @maxItems 128
 */
export type Row = Insert[];

/**
 * A Hafen session, format "hafen-session", version 1. Gains are dB, null is silence; positions and lengths are samples at the session rate.
 */
export interface SessionDocument {
    format: 'hafen-session';
    version: 1;
    name: Name;
    /**
     * Hz
     */
    sampleRate: number;
    /**
     * Beats per minute
     */
    tempo?: number;
    /**
     * Gain of a mono channel at the centre, dB
     */
    panLaw?: number;
    /**
     * Samples; the end of the last clip where it is left out
     */
    length?: number;
    /**
     * @maxItems 512
     */
    channels: Channel[];
    /**
     * Ways out through units of outboard and back; no two share a port
     *
     * @maxItems 16
     */
    loops?: HardwareLoop[];
}
export interface Channel {
    id: Id;
    kind: 'track' | 'note' | 'group' | 'return' | 'cue' | 'main';
    name: Name;
    width?: 'mono' | 'stereo';
    source?: Source;
    trim?: {
        gain?: Gain;
        invert?: boolean;
    };
    /**
     * false bypasses the whole row; each insert keeps its own state
     */
    insertsOn?: boolean;
    inserts?: Row;
    fader?: Gain;
    /**
     * -1 left to +1 right
     */
    pan?: number;
    mute?: boolean;
    solo?: boolean;
    soloSafe?: boolean;
    postInserts?: Row;
    /**
     * @maxItems 512
     */
    sends?: Send[];
    /**
     * A channel id, "none", or an interface pair such as "hw:1-2"
     */
    output?: string;
    /**
     * false: nothing is delayed for this channel, its branches meet and its output and sends arrive as late as its own processors make them
     */
    aligned?: boolean;
    /**
     * Not shown; the sound is the same
     */
    hidden?: boolean;
    /**
     * What moves over time; left out where nothing does
     *
     * @maxItems 256
     */
    automation?: AutomationLane[];
    frozen?: Frozen;
    /**
     * Of a cue: a click on each beat, its peaks in dBFS
     */
    click?: number | null;
    /**
     * Of a cue: who hears it, and what they put on top of the sends
     */
    performer?: {
        /**
         * Their own channels
         *
         * @maxItems 512
         */
        tracks?: Id[];
        /**
         * dB on top of the sends of their own channels; null is silence
         */
        me?: number | null;
        /**
         * dB on top of all other sends; null is silence
         */
        band?: number | null;
    };
    /**
     * Switched off: silent, and not worked
     */
    off?: boolean;
    /**
     * Controls that each move several of the channel's own; left out where there are none
     *
     * @maxItems 64
     */
    macros?: Macro[];
    /**
     * Switches that each choose how the rows of the channel stand; left out where there are none
     *
     * @maxItems 16
     */
    sounds?: SoundSwitch[];
    /**
     * Clips that are kept beside those a track plays
     *
     * @maxItems 64
     */
    versions?: {
        id: Id;
        name: string;
        clips: Clip[];
    }[];
}
export interface ClipSource {
    type: 'clips';
    clips: Clip[];
}
export interface Clip {
    id: Id;
    /**
     * A path relative to the document, or a media id in the application
     */
    file: string;
    start: Position;
    offset?: Position;
    length: number;
    gain?: Gain;
    /**
     * Samples the converter clipped when the file was recorded
     */
    clipped?: number;
    /**
     * What it was printed from: a tap of a channel as it was in a revision
     */
    printedFrom?: {
        revision: number;
        channel: Id;
        tap: 'source' | 'pre-fader' | 'post-fader' | 'main';
        /**
         * Other channels in the same print
         *
         * @maxItems 512
         */
        with?: Id[];
    };
}
/**
 * Of a note channel
 */
export interface NoteSource {
    type: 'notes';
    /**
     * @maxItems 1000
     */
    clips?: NoteClip[];
}
/**
 * Notes from a start for a length, in ticks: 960 of a quarter note
 */
export interface NoteClip {
    id: Id;
    start: number;
    length: number;
    /**
     * Each [at, length, key, velocity]: ticks after the start of the clip, ticks, 0 to 127 (60 is C4), 1 to 127
     *
     * @maxItems 20000
     */
    notes?: number[][];
    /**
     * Movements of controllers, each [at, controller, value]: 0 to 127 by MIDI, 64 is the sustain pedal; 128 is the pitch wheel, from -8192 to 8191
     *
     * @maxItems 20000
     */
    controls?: number[][];
}
export interface BusSource {
    type: 'bus';
}
export interface TapSource {
    type: 'tap';
    channel: Id;
    tap: 'source' | 'pre-fader' | 'post-fader';
}
export interface InputSource {
    type: 'input';
    /**
     * An input of the audio interface, or a pair of two that follow each other: "in:1", "in:1-2"
     */
    input: string;
    /**
     * When the input is heard in place of the clips; in files never
     */
    monitor?: 'off' | 'armed' | 'always';
    /**
     * What was recorded
     */
    clips?: Clip[];
}
export interface ProcessorInsert {
    /**
     * What is played is an instrument, what works on notes a note effect; "processor" is read for these too
     */
    type: 'processor' | 'instrument' | 'note-effect';
    id: Id;
    /**
     * An id of the catalogue, see "hafen processors"
     */
    processor: string;
    on?: boolean;
    /**
     * 0 dry to 1 wet
     */
    mix?: number;
    /**
     * What differs from the processor's defaults; names, units and ranges are the processor's
     */
    parameters?: {
        [k: string]: number | string | boolean;
    };
    /**
     * Name of the preset taken last
     */
    preset?: string;
    /**
     * The note channel that steers it; only of effects that follow notes
     */
    notes?: string;
    /**
     * The tap of another channel that is listened to instead of the sound worked on; only where the processor can
     */
    sidechain?: {
        channel: Id;
        tap: 'source' | 'pre-fader' | 'post-fader';
    };
    /**
     * Parameters that presets leave alone
     *
     * @maxItems 10000
     */
    locked?: Id[];
    /**
     * A second setting beside the one at work; `side` says which of the two it is
     */
    other?: {
        side: number;
        parameters: {
            [k: string]: number | string | boolean;
        };
    };
}
export interface Split {
    type: 'split';
    id: Id;
    on?: boolean;
    /**
     * What each branch gets: the whole sound, a band each from low to high, a side each, or mid and side
     */
    by?: 'copies' | 'frequency' | 'left-right' | 'mid-side';
    /**
     * Hz, rising, one fewer than branches: of a split by frequency
     *
     * @maxItems 3
     */
    crossovers?: number[];
    selector?: Selector;
    /**
     * @minItems 1
     * @maxItems 16
     */
    branches: Branch[];
}
/**
 * One control that chooses between the branches of a split: each is open in its range, those without one always
 */
export interface Selector {
    /**
     * Where it stands
     */
    value?: number;
    /**
     * What stays the same where ranges meet: the power, or the sum of amplitudes
     */
    fade?: 'equal-power' | 'linear';
    /**
     * Whether what a branch holds rings out once it is left
     */
    rings?: boolean;
    notes?: SelectorNotes;
}
/**
 * Notes that move a selector: each puts it where its key or velocity lies between from (0) and to (1)
 */
export interface SelectorNotes {
    /**
     * Id of a note channel
     */
    channel: string;
    value: 'key' | 'velocity';
    from: number;
    /**
     * Other than from, and may be below it
     */
    to: number;
    /**
     * ms from one place to the next
     */
    glide?: number;
}
export interface Branch {
    id: Id;
    name: Name;
    gain?: Gain;
    /**
     * -1 left to +1 right
     */
    pan?: number;
    mute?: boolean;
    /**
     * Silences the other branches of the split that are not soloed
     */
    solo?: boolean;
    /**
     * Polarity turned over
     */
    invert?: boolean;
    inserts?: Row;
    range?: SelectorRange;
    keys?: NoteZone;
    velocities?: NoteZone1;
}
/**
 * Where a selector opens a branch. A fade lies half on each side of its edge; at 0 and at 1 there is none
 */
export interface SelectorRange {
    from: number;
    /**
     * Above from
     */
    to: number;
    /**
     * Width of the fade at from
     */
    fadeFrom?: number;
    /**
     * Width of the fade at to
     */
    fadeTo?: number;
}
/**
 * Of the notes it plays
 */
export interface NoteZone {
    from: number;
    to: number;
    fadeFrom?: number;
    fadeTo?: number;
}
/**
 * Of the notes it plays
 */
export interface NoteZone1 {
    from: number;
    to: number;
    fadeFrom?: number;
    fadeTo?: number;
}
/**
 * A hardware loop in a row
 */
export interface HardwareInsert {
    type: 'hardware';
    id: Id;
    on?: boolean;
    mix?: number;
    loop: Id;
}
export interface Send {
    id: Id;
    to: Id;
    gain?: Gain;
    tap?: 'source' | 'pre-fader' | 'post-fader';
    on?: boolean;
    /**
     * -1 left to +1 right
     */
    pan?: number;
}
export interface AutomationLane {
    /**
     * "fader", "pan", "mute", "send:ID", "mix:ID", "on:ID", "parameter:ID:NAME", "branch:ID", "selector:ID", "macro:ID" or "sound:ID" (a sound switch) of this channel; each has one lane at most
     */
    target: string;
    /**
     * In the order of time
     *
     * @minItems 1
     * @maxItems 4000
     */
    points: AutomationPoint[];
}
export interface AutomationPoint {
    at: Position;
    /**
     * dB for fader, send and branch (null is silence), -1 to 1 for pan, 0 or 1 for mute, on and switches, 0 to 1 for mix, selector and macro, the place among its sounds from 0 for sound, otherwise in the unit of the parameter
     */
    value: number | null;
    /**
     * How the way to the next point bends: 0 straight, above 0 it sets out slowly, below 0 it arrives slowly
     */
    curve?: number;
}
/**
 * The channel plays a file in place of everything up to its fader: float WAV at the session's rate, sample 0 is sample 0 of the session
 */
export interface Frozen {
    file: string;
    /**
     * Content hash of what was frozen; the freeze is stale when the channel has another
     */
    hash: string;
    /**
     * After the session's end: as long as it is heard, or seconds
     */
    tail?: 'auto' | number;
}
export interface Macro {
    /**
     * Unique in the session
     */
    id: string;
    name: string;
    /**
     * Whether it is a switch: its value is 0 or 1
     */
    switch?: boolean;
    value?: number;
    /**
     * @maxItems 256
     */
    moves?: MacroMove[];
}
export interface MacroMove {
    /**
     * "parameter:ID:NAME", "mix:ID" or "on:ID" of an insert, "send:ID", "branch:ID", "selector:ID", each of the same channel and once in a macro
     */
    target: string;
    /**
     * Value at 0 %, as the control has it: dB of sends and branches (null is silence), 0 to 1 of a mix, 0 or 1 of a switch
     */
    from: number | null;
    /**
     * The same at 100 %
     */
    to: number | null;
    /**
     * -1: most of the way at first; 1: most of it at last; 0: evenly along the control's travel
     */
    curve?: number;
}
/**
 * One switch for the whole sound of a channel. It moves what differs between its sounds
 */
export interface SoundSwitch {
    /**
     * Unique in the session
     */
    id: string;
    name: string;
    /**
     * ms from one sound to the next
     */
    fade?: number;
    /**
     * Id of the sound that was chosen last
     */
    chosen?: string | null;
    /**
     * Keys of a note channel that choose sounds: the lowest key the first, the next one the second, and so on
     */
    notes?: {
        /**
         * Id of a note channel
         */
        channel: string;
        lowest: number;
    };
    /**
     * @maxItems 32
     */
    sounds?: Sound[];
}
/**
 * How the rows of a channel stand under a name
 */
export interface Sound {
    /**
     * Unique in the session
     */
    id: string;
    name: string;
    /**
     * Values by target, as macros have them: dB of branches (null is silence), 0 to 1 of a mix or a selector, 0 or 1 of a switch. An insert that is not named is off
     */
    values: {
        [k: string]: number | null;
    };
}
/**
 * A way out at ports of the audio interface, through a unit, and back
 */
export interface HardwareLoop {
    id: Id;
    name: Name;
    /**
     * Outputs: one, or two that follow each other
     */
    send: string;
    /**
     * Inputs, as many
     */
    return: string;
    /**
     * Unit of the rack, where it is known
     */
    unit?: string;
    /**
     * dB
     */
    sendTrim?: number;
    /**
     * dB
     */
    returnTrim?: number;
    /**
     * Polarity turned over on the way back
     */
    invert?: boolean;
    /**
     * ms for which the unit sounds on
     */
    tail?: number;
    /**
     * What a ping measured: samples out and in again, converters and buffers included, and the buffer of the interface then
     */
    delay?: {
        samples: number;
        buffer: number;
    };
    /**
     * How the unit was set
     */
    recall?: {
        /**
         * Positions by the id of the knob
         */
        knobs: {
            [k: string]: number | string | boolean;
        };
        notes?: string;
    };
}
