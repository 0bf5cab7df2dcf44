import type {
    AfterPrint,
    AutomationPoint,
    Insert,
    Macro,
    NoteClip,
    NoteRow,
    NoteZone,
    ParameterValue,
    PrintTap,
    Selector,
    SelectorRange,
    SoundSwitch,
    SplitChoice,
    TapName,
} from '@/api/types';

/** Where in a channel's rows something goes in; the end of the row where `at` is left out. */
export interface RowPosition {
    row?: 'inserts' | 'postInserts';
    at?: number;
    branch?: string | null;
}

/** A file of the library as a clip. */
export interface NewFile {
    file: string;
    length: number;
    width: 'mono' | 'stereo';
    start?: number;
}

/** A cell of the table of sends; what is left out stays, or is as usual. */
export interface SendPosition {
    channel: string;
    to: string;
    gain?: number | null;
    tap?: TapName;
    on?: boolean;
    pan?: number;
}

type ChannelEdit =
    | {
          type: 'add-channel';
          name: string;
          kind?: 'track' | 'note' | 'group' | 'return' | 'cue';
          width?: 'mono' | 'stereo';
          file?: NewFile;
          tap?: { channel: string; tap: TapName };
          notes?: NoteClip;
      }
    | { type: 'rename-channel'; channel: string; name: string }
    | { type: 'move-channel'; channel: string; to: number }
    | { type: 'remove-channels'; channels: string[] }
    | { type: 'group-channels'; channels: string[]; name?: string }
    | { type: 'put-file'; channel: string; file: NewFile }
    | {
          type: 'set-source';
          channel: string;
          source: { type: 'clips' } | { type: 'tap'; channel: string; tap: TapName };
      }
    | { type: 'set-input'; channel: string; input: string | null; monitor?: 'off' | 'armed' | 'always' }
    | { type: 'set-output'; channels: string[]; output: string }
    | { type: 'set-mute'; channels: string[]; mute: boolean }
    | { type: 'set-solo'; channels: string[]; solo: boolean }
    | { type: 'set-solo-safe'; channels: string[]; soloSafe: boolean }
    | { type: 'add-loop'; name: string; send: string; return: string; unit?: string }
    | {
          type: 'set-loop';
          loop: string;
          name?: string;
          send?: string;
          return?: string;
          unit?: string | null;
          sendTrim?: number;
          returnTrim?: number;
          invert?: boolean;
          tail?: number;
          delay?: { samples: number; buffer: number } | null;
          recall?: { knobs: Record<string, ParameterValue>; notes: string } | null;
      }
    | { type: 'remove-loop'; loop: string }
    | ({ type: 'add-hardware'; loop: string; channel: string } & RowPosition)
    | { type: 'set-performer'; cue: string; tracks: string[] | null }
    | { type: 'set-performer-gain'; cue: string; part: 'me' | 'band'; gain: number | null }
    | { type: 'set-click'; cue: string; click: number | null }
    | { type: 'set-aligned'; channels: string[]; aligned: boolean }
    | { type: 'set-hidden'; channels: string[]; hidden: boolean }
    | { type: 'freeze'; channels: { channel: string; file: string; hash: string; tail?: 'auto' | number }[] }
    | { type: 'unfreeze'; channels: string[] }
    | { type: 'set-off'; channels: string[]; off: boolean }
    | {
          type: 'put-takes';
          channel: string;
          takes: NewFile[];
          from?: { revision: number; channel: string; tap: PrintTap };
      }
    | { type: 'keep-version'; channel: string; name: string }
    | { type: 'use-version' | 'remove-version'; channel: string; version: string }
    | {
          type: 'put-prints';
          prints: {
              file: NewFile;
              from: { revision: number; channel: string; tap: PrintTap; with?: string[] };
              name: string;
          }[];
          inPlace: boolean;
          after: AfterPrint;
      };

type LevelEdit =
    | { type: 'set-fader' | 'set-trim'; channels: string[]; gain: number | null }
    | { type: 'move-faders' | 'move-trims' | 'move-clip-gains'; channels: string[]; by: number }
    | { type: 'set-pan'; channels: string[]; pan: number }
    | { type: 'set-polarity'; channels: string[]; invert: boolean };

type InsertEdit =
    | ({
          type: 'add-insert';
          channels: string[];
          processor: string;
          parameters?: Record<string, ParameterValue>;
          preset?: string;
      } & RowPosition)
    | ({ type: 'paste-inserts'; channel: string; inserts: Insert[]; name?: string } & RowControls & RowPosition)
    | ({ type: 'move-insert'; insert: string; channel: string } & RowPosition)
    | ({ type: 'copy-inserts'; inserts: string[]; channels: string[] } & RowPosition)
    | { type: 'swap-inserts'; insert: string; with: string }
    | { type: 'replace-insert'; insert: string; processor: string }
    | { type: 'remove-inserts'; inserts: string[] }
    | { type: 'set-insert-on'; inserts: string[]; on: boolean }
    | { type: 'set-row'; channels: string[]; on: boolean }
    | { type: 'set-mix'; insert: string; mix: number }
    | { type: 'set-parameter'; insert: string; parameter: string; value: ParameterValue }
    | { type: 'set-parameters'; insert: string; parameters: Record<string, ParameterValue>; preset?: string }
    | { type: 'set-locked'; insert: string; parameter: string; locked: boolean }
    | { type: 'set-sidechain'; insert: string; sidechain: { channel: string; tap: TapName } | null }
    | { type: 'set-insert-notes'; insert: string; notes: string | null }
    | { type: 'swap-settings' | 'drop-other-setting'; insert: string }
    | { type: 'cut-frequency'; channel: string; frequency: number; depth: number };

/** What goes with inserts that come from outside the session. */
export interface RowControls {
    macros?: Macro[];
    sounds?: SoundSwitch[];
}

type MacroEdit =
    | { type: 'add-macro'; channel: string; name: string; switch?: boolean }
    | { type: 'rename-macro'; macro: string; name: string }
    | { type: 'remove-macro'; macro: string }
    | { type: 'turn-macro'; macro: string; value: number }
    | {
          type: 'set-macro-move';
          macro: string;
          target: string;
          from: number | null;
          to: number | null;
          curve?: number;
      }
    | { type: 'remove-macro-move'; macro: string; target: string };

type SoundEdit =
    | { type: 'add-sound-switch'; channel: string; name: string; sound: string }
    | { type: 'set-sound-switch'; switch: string; name?: string; fade?: number }
    | { type: 'remove-sound-switch'; switch: string }
    | { type: 'add-sound'; switch: string; name: string }
    | { type: 'choose-sound' | 'keep-sound' | 'remove-sound'; switch: string; sound: string }
    | { type: 'set-sound-notes'; switch: string; notes: NonNullable<SoundSwitch['notes']> | null }
    | { type: 'step-sound'; switch: string; to: 'next' | 'previous' }
    | { type: 'rename-sound'; switch: string; sound: string; name: string };

type SplitEdit =
    | ({ type: 'add-split'; channel: string; crossovers?: number[] } & RowPosition & Partial<SplitChoice['edit']>)
    | { type: 'wrap-in-branch'; inserts: string[] }
    | { type: 'add-branch'; split: string; name?: string }
    | { type: 'remove-branch' | 'pull-out-branch'; branch: string }
    | { type: 'rename-branch'; branch: string; name: string }
    | { type: 'set-branch-gain'; branches: string[]; gain: number | null }
    | { type: 'set-branch-pan'; branches: string[]; pan: number }
    | { type: 'set-branch-mute'; branches: string[]; mute: boolean }
    | { type: 'set-branch-solo'; branches: string[]; solo: boolean }
    | { type: 'set-branch-polarity'; branches: string[]; invert: boolean }
    | { type: 'set-crossovers'; split: string; crossovers: number[] }
    | { type: 'move-crossover'; split: string; index: number; frequency: number }
    | { type: 'add-selector' | 'remove-selector'; split: string }
    | { type: 'turn-selector'; split: string; value: number }
    | { type: 'set-selector-notes'; split: string; notes: NonNullable<Selector['notes']> | null }
    | { type: 'step-selector'; split: string; to: 'next' | 'previous' }
    | { type: 'set-selector'; split: string; fade?: 'equal-power' | 'linear'; rings?: boolean }
    | { type: 'set-selector-range'; branch: string; range: SelectorRange | null }
    | { type: 'set-branch-zones'; branch: string; keys: NoteZone | null; velocities: NoteZone | null }
    | { type: 'keep-level'; split: string }
    | { type: 'dissolve-split'; split: string; keep: string };

type NoteEdit =
    | { type: 'add-notes'; channel: string; notes?: NoteRow[]; controls?: [number, number, number][] }
    | { type: 'put-note-clip'; channel: string; clip: NoteClip }
    | { type: 'move-note-clip'; channel: string; clip: string; start: number; length: number }
    | { type: 'remove-note-clip'; channel: string; clip: string }
    | { type: 'set-notes'; channel: string; clip: string; notes: NoteRow[] }
    | { type: 'set-note-controls'; channel: string; clip: string; controller: number; controls: [number, number][] }
    | { type: 'quantise-notes'; channel: string; clip: string; grid: number; notes?: number[]; strength?: number }
    | { type: 'transpose-notes'; channel: string; clip: string; by: number; notes?: number[] };

type SendEdit =
    | { type: 'add-send'; channels: string[]; to: string; gain?: number | null; tap?: TapName; pan?: number }
    | {
          type: 'send-to-new-return';
          channels: string[];
          processor: string;
          parameters?: Record<string, ParameterValue>;
          name?: string;
          gain?: number | null;
      }
    | { type: 'set-send-gain'; sends: string[]; gain: number | null }
    | { type: 'move-sends'; sends: string[]; by: number }
    | { type: 'set-send-tap'; sends: string[]; tap: TapName }
    | { type: 'set-send-on'; sends: string[]; on: boolean }
    | { type: 'set-send-pan'; sends: string[]; pan: number }
    | { type: 'put-sends'; sends: SendPosition[] }
    | { type: 'remove-sends'; sends: string[] }
    | { type: 'copy-sends'; sends: string[]; channels: string[] }
    | { type: 'copy-mix-to-cue'; cue: string };

type SessionEdit =
    | { type: 'rename-session'; name: string }
    | { type: 'set-tempo'; tempo: number }
    | { type: 'set-automation'; channel: string; target: string; points: AutomationPoint[] }
    | { type: 'fade'; channels: string[]; direction: 'in' | 'out'; from: number; to: number }
    | { type: 'several'; label: string; edits: Edit[] };

/** An edit as the server takes it; docs/formats/edits.md says what each does. */
export type Edit =
    | ChannelEdit
    | LevelEdit
    | InsertEdit
    | MacroEdit
    | SoundEdit
    | NoteEdit
    | SplitEdit
    | SendEdit
    | SessionEdit;
