import type { Edit } from './edits';
import type {
    Branch as DocumentBranch,
    BusSource,
    Clip,
    HardwareInsert as DocumentHardwareInsert,
    HardwareLoop as DocumentHardwareLoop,
    Macro as DocumentMacro,
    MacroMove as DocumentMacroMove,
    AutomationLane as DocumentAutomationLane,
    AutomationPoint as DocumentAutomationPoint,
    NoteZone as DocumentNoteZone,
    ProcessorInsert as DocumentProcessorInsert,
    Selector as DocumentSelector,
    SelectorRange as DocumentSelectorRange,
    Send as DocumentSend,
    Sound as DocumentSound,
    SoundSwitch as DocumentSoundSwitch,
    Frozen,
    SessionDocument,
    Split as DocumentSplit,
    TapSource,
} from './session';

/** What the server sends is complete: nothing is left to defaults. */
/** What an insert has only where it was used. */
type Kept = 'preset' | 'locked' | 'other' | 'sidechain' | 'notes';

export type ProcessorInsert = Required<Omit<DocumentProcessorInsert, Kept>> & Pick<DocumentProcessorInsert, Kept>;
/** When it begins and how long it is in ticks, key, velocity. */
export type NoteRow = [number, number, number, number];
export interface NoteClip {
    id: string;
    start: number;
    length: number;
    notes: NoteRow[];
    /** When, which controller, and where it goes. */
    controls?: [number, number, number][];
}
/** What a MIDI file holds. */
export interface MidiSong {
    tempo: number | null;
    changesTempo: boolean;
    parts: { name: string; clip: NoteClip }[];
}
export type SelectorRange = Required<DocumentSelectorRange>;
export type Selector = Required<Omit<DocumentSelector, 'notes'>> & Pick<DocumentSelector, 'notes'>;
export type NoteZone = Required<DocumentNoteZone>;
export type Branch = Omit<Required<DocumentBranch>, 'inserts' | 'range' | 'keys' | 'velocities'> & {
    inserts: Insert[];
    range?: SelectorRange;
    keys?: NoteZone;
    velocities?: NoteZone;
};
export type Split = Omit<Required<DocumentSplit>, 'branches' | 'selector'> & {
    branches: Branch[];
    selector?: Selector;
};
export type SoundSwitch = Omit<Required<DocumentSoundSwitch>, 'sounds' | 'notes'> & {
    sounds: DocumentSound[];
    notes?: DocumentSoundSwitch['notes'];
};
export type HardwareInsert = Required<DocumentHardwareInsert>;
export type Insert = ProcessorInsert | Split | HardwareInsert;
/** What a loop has only once it was pinged, or its unit noted. */
type OfLoop = 'unit' | 'delay' | 'recall';
export type HardwareLoop = Required<Omit<DocumentHardwareLoop, OfLoop>> & Pick<DocumentHardwareLoop, OfLoop>;
export type Send = Required<DocumentSend>;
export type DocumentClip = Required<Omit<Clip, 'printedFrom' | 'clipped'>> & Pick<Clip, 'printedFrom' | 'clipped'>;
export type TapName = Send['tap'];
export type MacroMove = Required<DocumentMacroMove>;
export type Macro = Omit<Required<DocumentMacro>, 'moves'> & { moves: MacroMove[] };
export type AutomationPoint = DocumentAutomationPoint;
export type AutomationLane = DocumentAutomationLane;

export interface Channel {
    id: string;
    kind: 'track' | 'note' | 'group' | 'return' | 'cue' | 'main';
    name: string;
    width: 'mono' | 'stereo';
    source:
        | { type: 'clips'; clips: DocumentClip[] }
        | { type: 'input'; input: string; monitor: 'off' | 'armed' | 'always'; clips: DocumentClip[] }
        | { type: 'notes'; clips: NoteClip[] }
        | BusSource
        | TapSource;
    trim: { gain: number | null; invert: boolean };
    insertsOn: boolean;
    inserts: Insert[];
    fader: number | null;
    pan: number;
    mute: boolean;
    solo: boolean;
    soloSafe: boolean;
    postInserts: Insert[];
    sends: Send[];
    output: string;
    aligned: boolean;
    hidden: boolean;
    /** Left out where nothing moves. */
    automation?: AutomationLane[];
    /** Left out where it plays itself. */
    frozen?: Frozen;
    /** Switched off: silent, and not worked. */
    off?: boolean;
    /** Of a cue: the click it hears, in dBFS; left out where it hears none. */
    click?: number;
    /** Of a cue: who hears it, and dB they put on top of the sends. */
    performer?: { tracks: string[]; me: number | null; band: number | null };
    /** Left out where there are none. */
    macros?: Macro[];
    /** Left out where there are none. */
    sounds?: SoundSwitch[];
    /** Clips that are kept beside those it plays. */
    versions?: { id: string; name: string; clips: DocumentClip[] }[];
}

export type Session = Omit<Required<SessionDocument>, 'channels' | 'loops'> & {
    channels: Channel[];
    /** Left out where there are none. */
    loops?: HardwareLoop[];
};

export type RowName = 'inserts' | 'postInserts';

export interface SessionState {
    id: number;
    change: number;
    /** What happened to the session that its owner has to know. */
    notice: string | null;
    revision: number;
    document: Session;
    undo: string | null;
    redo: string | null;
    inserts: Record<string, InsertFacts>;
    audible: Record<string, boolean>;
    /** Whether sound is stereo, by tap. */
    stereo: Record<string, boolean>;
    latency: { channels: Record<string, number>; arrival: Record<string, number>; session: number };
    /** What comes out of time where alignment is off, in samples, and the first notch that makes, in Hz. */
    combs: { channel: string; where: string; split: string | null; samples: number; notch: number }[];
    /** Of each channel: itself and everything up- and downstream. */
    paths: Record<string, string[]>;
    /** Of each channel: where its sound cannot go without coming back to it. */
    loops: Record<string, string[]>;
    /** Of frozen channels: whether they would sound otherwise unfrozen, and whether their file can be played. */
    frozen: Record<string, { stale: boolean; playable: boolean }>;
    outputPairs: string[];
    /** Inputs of the interface, alone and in pairs. */
    inputs: string[];
    /** Of tracks that take an input: when it is heard, and how late it comes, by channel on its way to the main. */
    live: Record<
        string,
        LivePath & { heard: 'off' | 'armed' | 'always'; quick: (LivePath & { delay: number; sleeping: string[] })[] }
    >;
    /** How long what goes through units of outboard takes in seconds, and the channels whose sound does. */
    hardware: { seconds: number; channels: string[] };
    /** What macros move, by channel and target. */
    macros: Record<string, Record<string, MovedControl>>;
    /** Lanes that notes make of selectors and sound switches, by target. */
    steered: Record<string, AutomationLane>;
    /** What sound switches move, and whether what is chosen stands otherwise now, by id. */
    sounds: Record<string, { moves: string[]; changed: boolean }>;
    /** Of cues: what their performers put on top of the sends, in dB; silence is null. */
    performers: Record<string, { part: 'me' | 'band'; name: string; gain: number | null }[]>;
    /** Channels whose recordings are over and not on their tracks yet. */
    recorded: string[];
    pilot: Advice[];
}

/** A control that macros move: what it can be, and where it stands; gains in dB, null is silence. */
export interface MovedControl {
    name: string;
    lowest: number | null;
    highest: number;
    unit: string;
    scale: 'linear' | 'logarithmic' | 'fader' | 'switch';
    value: number | null;
    /** The lowest and the highest value macros can put it to. */
    reach: [number | null, number | null];
}

/** Samples by which each channel on the way makes a live input late. */
export interface LivePath {
    path: { channel: string; samples: number }[];
}

/** What to change at the amplifier of an input, and to which gain that leads, in dB. */
export interface LevelAdvice {
    change: number;
    gain: number;
    text: string;
}

/** The audio interface and how it is set; latencies in samples. */
export interface InterfaceState {
    name: string;
    buffer: number;
    buffers: number[];
    inputs: { name: string; plug: string; gain: number; file?: string; fileName?: string; output?: number }[];
    outputs: string[];
    plugs: { id: string; label: string }[];
    /** Between which an input peaks that is healthy, in dBFS. */
    healthy: { lowestPeak: number; highestPeak: number };
    /** The delay quick monitoring begins with in ms. */
    usualQuick: number;
    gains: { lowest: number; highest: number };
    latency: { in: number; out: number; roundTrip: number };
    /** Samples that were clipped, by port. */
    clipped: Record<string, number>;
    units: Unit[];
}

/** A unit of outboard in the rack: where it is plugged in, and where its knobs stand. */
export interface Unit {
    id: string;
    name: string;
    purpose: string;
    isStereo: boolean;
    knobs: ParameterSpec[];
    send: string | null;
    return: string | null;
    isInverted: boolean;
    positions: Record<string, ParameterValue>;
}

/** What a ping found of a loop; level in dB with both trims, noise in dBFS. */
export interface PingResult {
    delay: { samples: number; buffer: number };
    milliseconds: number;
    level: number;
    isInverted: boolean;
    noise: number | null;
}

export interface InsertFacts {
    label: string;
    latency: number;
    /** Of processors: the two short lines on their chip. */
    chip?: ChipLabel;
    /** Names of the presets whose setting it has. */
    presets?: string[];
    /** The mix it starts with where it stands, 0 to 1. */
    usualMix?: number;
    /** Of splits: what their branches add up to, in dB, whether they carry the same, and which come through. */
    rise?: number | null;
    equal?: boolean;
    heard?: string[];
    /** Of splits whose branches notes get to. */
    notes?: true;
    /** Of splits with a selector: how far each branch is open, 0 to 1, at places evenly from 0 to 1. */
    openings?: number[][];
}

/** The two short lines on the chip of an insert. */
export interface ChipLabel {
    name: string;
    figure: string;
}

export interface SessionSummary {
    id: number;
    name: string;
    change: number;
    updated_at: string;
}

/** A deleted session that can still be brought back. */
export interface DiscardedSession {
    id: number;
    name: string;
    until: string;
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
    kind: 'number' | 'choice' | 'switch' | 'audio-file';
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
    /** At most six letters. */
    shortName: string;
    category: string;
    purpose: string;
    levelDependent: boolean;
    wetOnly: boolean;
    widens: boolean;
    /** It can listen to another channel. */
    takesSidechain: boolean;
    /** An instrument, or a note effect. */
    takesNotes: boolean;
    /** Without notes it is silent, or stands still. */
    needsNotes: boolean;
    followsNotes: boolean;
    /** Per cent of one core for a stereo instance, as measured. */
    cost: number | null;
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
    reading: 'transfer' | 'response' | null;
}

export interface TapLevel {
    peak: number | null;
    rms: number | null;
    overs: number;
    reduction: number;
}

export interface SurveyedTap extends TapLevel {
    /** Samples of the session. */
    peakAt: number | null;
    firstOver: number | null;
    /** Of the quietest range that is not silent. */
    floor: number | null;
}

export interface LoudMoment {
    position: number;
    level: number | null;
    /** Signed share of each channel that feeds the main. */
    shares: Record<string, number>;
}

export interface EnergyShare {
    all: number;
    low: number;
    mud: number;
    above: number;
}

export interface SurveyResult {
    from: number;
    to: number;
    taps: Record<string, SurveyedTap>;
    channels: Record<
        string,
        {
            loudness: number | null;
            truePeak: number | null;
            correlation: number | null;
            clipped: { clip: string; places: number; first: number }[];
        }
    >;
    overview: number[];
    overs: { from: number; to: number; samples: number; peak: number | null }[];
    samplesOver: number;
    loads: Record<string, number>;
    /** Of one core for everything; null where it is not known, or nothing plays. */
    load: number | null;
    /** Taps that a file in whole numbers would clip. */
    clips: string[];
    /** What becomes of the main's peaks; null before it is measured. */
    headroom: 'below' | 'over' | 'clips' | null;
    faults: string[];
    /** Of the main: LUFS, LU, dBTP. */
    loudness: number | null;
    loudnessRange: number | null;
    momentary: number | null;
    shortTerm: number | null;
    truePeak: number | null;
    /** Of what enters the main. */
    loudest: LoudMoment | null;
    energy: Record<string, EnergyShare>;
    /** dB by which the main's peak falls when a channel is 6 dB lower, or silent. */
    relief: Record<string, { lowered: number; silent: number }>;
}

export interface SurveyState {
    current: boolean;
    running: { progress: number; secondsLeft: number | null } | null;
    result: SurveyResult | null;
    /** Taps whose figures are older than the session, or not whole yet. */
    stale: string[];
    /** Those of them that are being measured: what came up to now. */
    soFar: string[];
    stopped: boolean;
    message: string | null;
}

/** A stage of a path where its level is known. */
export interface Stage {
    channel: string;
    tap: string;
    label: string;
    /** Of an effect: its short name. */
    short: string;
    /** dB to add to the level of the tap. */
    offset: number;
    levelDependent: boolean;
    /** What a level above full scale is here: whole numbers clip. */
    above: 'clip' | 'over';
}

export type AimFigure = 'peak' | 'true-peak' | 'loudness';

export interface Aim {
    figure: AimFigure;
    level: number;
}

export type Levels = Record<AimFigure, number | null>;

export interface Prediction {
    labels: string[];
    edits: Edit[];
    /** Measured over the whole length; otherwise only around the loudest moment. */
    verified: boolean;
    before: Levels;
    after: Levels;
    reached: boolean;
    changes: string[];
    fed: number;
    /** What is left of the difference in sound once levels are matched, in dB; null is none. */
    tone: number | null;
    reductions: number[];
    reductionStep: number;
}

export interface RemedyPlan {
    id: number;
    /** Whether it goes by dB that can be set. */
    hasAmount: boolean;
    /** `shown` is known around the loudest moment, `done` over the whole length. */
    status: 'waiting' | 'running' | 'shown' | 'done' | 'failed' | 'stopped' | 'dropped';
    progress: number;
    prediction: Prediction | null;
    message: string | null;
}

export interface RenderState {
    id: string;
    name: string;
    status: 'waiting' | 'running' | 'stopping' | 'done' | 'stopped' | 'failed' | 'refused';
    progress: number;
    message: string | null;
    /** Once it is refused: what would clip. */
    clips: {
        peak: number;
        samples: number;
        first: number | null;
        places: { from: number; samples: number; peak: number | null }[];
        morePlaces: number;
    } | null;
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
    /** 0 to 1, while it is prepared. */
    progress: number;
    message: string | null;
    sampleRate: number | null;
    channels: number | null;
    format: string | null;
    /** Samples that are no numbers and are read as silence. */
    unreadable: number;
    length: number | null;
    overview: number[] | null;
}

/** Settings under a name; `id` is null for those that ship. */
export interface Preset {
    id: number | null;
    processor: string;
    name: string;
    use: string;
    parameters: Record<string, ParameterValue>;
}

/** Several inserts under a name; `id` is null for those that ship. */
export interface RowPreset {
    id: number | null;
    name: string;
    use: string;
    inserts: Insert[];
    macros?: Macro[];
    sounds?: SoundSwitch[];
}

/** Something the Pilot found; `part` is an insert, split or send. */
export interface Advice {
    id: string;
    check: string;
    severity: 'severe' | 'advice' | 'information';
    channel: string;
    part: string | null;
    text: string;
    fix: { label: string; edit: Edit } | null;
    dismissed: boolean;
}

/** A split with all that is in it, under a name. */
export interface SplitPreset {
    id: number;
    name: string;
    split: Split;
    macros?: Macro[];
    sounds?: SoundSwitch[];
}

/** What a kind of channel may do. */
export interface KindRules {
    takesOutputs: boolean;
    takesSends: boolean;
    takesSource: boolean;
    canSend: boolean;
    canBeGrouped: boolean;
    canBeFrozen: boolean;
    endsAtInterface: boolean;
}

/** Rules and laws that hold in every session, as the server states them. */
/** A way to split a row that the finder and the inspector offer. */
export interface SplitChoice {
    id: string;
    name: string;
    purpose: string;
    edit: { by: Split['by']; branches: number };
}

export interface Rules {
    kinds: Record<Channel['kind'], KindRules>;
    /** Travels of a fader at gains from the lowest on, in even steps of dB. */
    fader: { lowest: number; highest: number; highestAutomated: number; step: number; travels: number[] };
    /** For each curve: how far the way between two points has come, at even shares of the time. */
    curve: { curves: number[]; shares: number[][] };
    splits: Record<Split['by'], { fewest: number; most: number }>;
    splitChoices: SplitChoice[];
    ticksPerBeat: number;
    /** Controllers of notes that have names, the values they take, and where they stand unmoved; others go from 0 to 127. */
    controllers: { number: number; name: string; lowest: number; highest: number; rest: number }[];
    /** What processors are for, in the order of the finder. */
    categories: string[];
    formats: { id: '16' | '24' | '32f'; label: string; isFloat: boolean }[];
    freezeFormats: { id: FreezeFormat; label: string }[];
    remedies: { id: string; title: string }[];
    mostAmount: number;
    aims: { figure: AimFigure; label: string; unit: string; usual: number }[];
    /** What an aim can be set to, in the unit of its figure. */
    aimRange: { lowest: number; highest: number };
    /** dBFS above which a level is over. */
    fullScale: number;
    sweep: { lowest: number; highest: number; from: number; to: number; depths: number[]; usualDepth: number };
}

export type FreezeFormat = '32f' | '64f';
export type PrintTap = 'source' | 'pre-fader' | 'post-fader' | 'main';
export type AfterPrint = 'keep' | 'mute' | 'off' | 'hide';

/** What is to be printed, and whereto. */
export interface PrintWish {
    channels: string[];
    tap: PrintTap;
    from: number;
    to?: number;
    tail: 'auto' | number;
    format: '16' | '24' | '32f';
    inPlace: boolean;
    /** Files of one length, beside the session. */
    toFiles: boolean;
    /** All in one audio. */
    together: boolean;
    /** What the returns bring of each channel is in its file. */
    withReturns: boolean;
    after: AfterPrint;
    name: string;
}

/** Channels that are being frozen, or printed, as one step. */
export interface PrintBatch {
    id: string;
    kind: 'freeze' | 'print' | 'files';
    status: 'running' | 'done' | 'failed' | 'stopped';
    message: string | null;
    channels: {
        channel: string;
        name: string;
        status: string;
        progress: number;
        /** Samples of a print that were lost at full scale. */
        clipped: number;
        peak: number | null;
    }[];
    progress: number;
    secondsLeft: number | null;
}

/** What one channel takes; loads as shares of a core. */
export interface ChannelLoad {
    id: string;
    total: number;
    /** Reading clips or the frozen file, and summing what others feed. */
    reading: number;
    /** Gains, splits and meters. */
    own: number;
    inserts: Record<string, number>;
    /** What freezing it gives back; null where it cannot be frozen, is already, or sleeps. */
    saving: number | null;
    /** Seconds of a core it takes to freeze it. */
    seconds: number | null;
}

/** What the session takes, measured. */
export interface SessionLoad {
    total: number;
    engine: number;
    seconds: number;
    /** Bytes. */
    memory: number;
    channels: ChannelLoad[];
}

export interface LoadState {
    /** The state of the session it is of. */
    change: number;
    status: 'none' | 'waiting' | 'running' | 'done' | 'failed' | 'stopped';
    progress: number;
    message: string | null;
    load: SessionLoad | null;
}

export type FewestBy = 'channels' | 'time';

/** Freezes that bring the session to a load. */
export interface FreezePlan {
    channels: string[];
    before: number;
    after: number;
    seconds: number;
    isReached: boolean;
    remaining: string[];
}

/** A recording in the library, with what uses it. */
export interface StoredMedia {
    id: string;
    name: string;
    status: 'preparing' | 'ready' | 'failed';
    message: string | null;
    format: string | null;
    sampleRate: number | null;
    channels: number | null;
    frames: number | null;
    unreadable: number;
    bytes: number;
    /** Name of the channel it is a freeze of. */
    frozenFrom: string | null;
    /** Names of sessions and presets. */
    usedBy: string[];
}

/** What lies on the disk; sizes in bytes. */
export interface StorageContents {
    free: number;
    /** Kept free for edits. */
    reserve: number;
    captured: number;
    keptRevisions: number;
    sessions: { id: number; name: string; bytes: number; revisions: number; at: string; deleted: boolean }[];
    media: StoredMedia[];
    renders: { id: string; name: string; session: number; bytes: number; at: string }[];
}

/** What the page of a performer shows. */
export interface PerformerMix {
    session: string;
    cue: string;
    tracks: string[];
    isMuted: boolean;
    faders: {
        id: 'me' | 'band' | 'click' | 'volume';
        label: string;
        gain: number | null;
        lowest: number;
        highest: number;
    }[];
    scale: Rules['fader'];
}
