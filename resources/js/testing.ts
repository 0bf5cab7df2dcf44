import { mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, disposePinia, getActivePinia, setActivePinia } from 'pinia';
import { vi } from 'vitest';
import { h, nextTick, type Component, type VNode } from 'vue';
import { api } from '@/api/client';
import type {
    Channel,
    ParameterSpec,
    ProcessorInsert,
    ProcessorSpec,
    Rules,
    SessionState,
    Stage,
    SurveyState,
} from '@/api/types';
import answersOfServer from '@/fixtures/answers.json';
import { setRules } from '@/rules';
import { useCatalogue } from '@/stores/catalogue';
import { useSession } from '@/stores/session';
import { useSurvey } from '@/stores/survey';

/** What tests of stores and components share; no part of the application. */

/** What the server really answers: tests/Feature/AnswersTest.php writes it. */
interface Answers {
    rules: Rules;
    processors: ProcessorSpec[];
    session: SessionState;
    survey: SurveyState;
    stages: { paths: Record<string, Stage[]> };
}

/** A type as JSON has it: any text where the type allows some. */
type Loose<T> = T extends string
    ? string
    : T extends number | boolean | null | undefined
      ? T
      : T extends (infer One)[]
        ? Loose<One>[]
        : { [Key in keyof T]: Loose<T[Key]> };

// Does not compile when an answer of the server lacks what the types promise.
const checked: Pick<Loose<Answers>, 'rules' | 'processors' | 'survey' | 'stages'> = answersOfServer;

export const answers = { ...answersOfServer, ...checked } as unknown as Answers;

setRules(answers.rules);

vi.stubGlobal(
    'BroadcastChannel',
    class {
        postMessage(): void {}
        close(): void {}
    },
);

export function number(id: string, more: Partial<ParameterSpec> = {}): ParameterSpec {
    return {
        id,
        label: id,
        kind: 'number',
        default: 0,
        unit: 'dB',
        min: -24,
        max: 24,
        scale: 'linear',
        step: 0.1,
        choices: [],
        group: '',
        ...more,
    } as ParameterSpec;
}

export function processor(id: string, category: string, more: Partial<ProcessorSpec> = {}): ProcessorSpec {
    return {
        id,
        name: id.charAt(0).toUpperCase() + id.slice(1),
        shortName: id.slice(0, 6),
        category,
        purpose: `What ${id} is for.`,
        levelDependent: false,
        wetOnly: false,
        widens: false,
        takesSidechain: false,
        takesNotes: false,
        needsNotes: false,
        followsNotes: false,
        cost: 1,
        synonyms: [],
        parameters: [number('gain')],
        ...more,
    };
}

export function insert(id: string, of: string, more: Partial<ProcessorInsert> = {}): ProcessorInsert {
    return { type: 'processor', id, processor: of, on: true, mix: 1, parameters: {}, ...more } as ProcessorInsert;
}

export function channel(id: string, more: Partial<Channel> = {}): Channel {
    return {
        id,
        kind: 'track',
        name: id.charAt(0).toUpperCase() + id.slice(1),
        width: 'mono',
        source: { type: 'clips', clips: [] },
        trim: { gain: 0, invert: false },
        insertsOn: true,
        inserts: [],
        postInserts: [],
        fader: 0,
        pan: 0,
        mute: false,
        solo: false,
        soloSafe: false,
        sends: [],
        output: 'main',
        hidden: false,
        automation: [],
        ...more,
    } as unknown as Channel;
}

export function stateOf(channels: Channel[], more: Partial<SessionState> = {}): SessionState {
    return {
        id: 1,
        change: 1,
        document: {
            name: 'Quay',
            sampleRate: 48000,
            tempo: 120,
            length: 480000,
            channels: [...channels, channel('main', { kind: 'main', output: 'hw:1-2' } as Partial<Channel>)],
        },
        inserts: {},
        macros: {},
        performers: {},
        recorded: [],
        pilot: [],
        stereo: {},
        audible: {},
        combs: [],
        latency: { channels: {}, arrival: {}, session: 0 },
        loops: {},
        paths: {},
        ...more,
    } as unknown as SessionState;
}

/** An edit as it went to the server. */
export type SentEdit = { type: string } & Record<string, unknown>;

export interface World {
    /** The edits that were sent to the server, in order. */
    edits: SentEdit[];
    /** What else was asked of it: method, path and body. */
    asked: [string, string, unknown][];
    answers: Record<string, unknown>;
    /** What the server makes of an edit; the same session again where it is left out. */
    after: ((edit: SentEdit) => SessionState) | null;
}

/** A fresh application without a server: a session, processors, and a record of what is sent. */
export function world(channels: Channel[], specs: ProcessorSpec[], more: Partial<SessionState> = {}): World {
    // What the world before still waits for would reach into this one.
    const before = getActivePinia();
    if (before) {
        disposePinia(before);
    }
    setActivePinia(createPinia());
    localStorage.clear();
    const made: World = { edits: [], asked: [], answers: {}, after: null };
    const answer = (method: string, path: string, body?: unknown): Promise<never> => {
        if (method === 'POST' && path.endsWith('/edits')) {
            const edit = (body as { edit: SentEdit }).edit;
            made.edits.push(edit);
            const state = useSession().state as SessionState;
            const next = made.after ? made.after(edit) : state;
            return Promise.resolve({ ...next, change: state.change + 1 } as never);
        }
        made.asked.push([method, path, body]);
        return Promise.resolve((made.answers[`${method} ${path}`] ?? {}) as never);
    };
    vi.spyOn(api, 'get').mockImplementation((path: string) => answer('GET', path));
    vi.spyOn(api, 'post').mockImplementation((path: string, body?: unknown) => answer('POST', path, body));
    vi.spyOn(api, 'put').mockImplementation((path: string, body: unknown) => answer('PUT', path, body));
    vi.spyOn(api, 'delete').mockImplementation((path: string) => answer('DELETE', path));
    useSession().state = stateOf(channels, more);
    useCatalogue().specs = specs;
    return made;
}

export async function settled(): Promise<void> {
    await nextTick();
    await new Promise((resolve) => setTimeout(resolve));
    await nextTick();
}

const slotted = (...names: string[]) => ({
    render(this: { $slots: Record<string, undefined | (() => unknown)> }) {
        return h('div', names.map((name) => this.$slots[name]?.()) as VNode[]);
    },
});

/** The application with the session the server really answered, its figures and the processors in it. */
export function realWorld(more: Partial<SessionState> = {}): World {
    const made = world([], answers.processors);
    useSession().state = { ...structuredClone(answers.session), ...more };
    useSurvey().state = structuredClone(answers.survey);
    return made;
}

/** A list to choose from, as the browser's own. */
const Select = {
    props: ['modelValue'],
    emits: ['change', 'update:modelValue'],
    render(this: {
        $slots: Record<string, undefined | (() => unknown)>;
        modelValue: unknown;
        $emit: (name: string, value: string) => void;
    }) {
        const choose = (event: Event) => {
            this.$emit('change', (event.target as HTMLSelectElement).value);
            this.$emit('update:modelValue', (event.target as HTMLSelectElement).value);
        };
        return h('select', { value: this.modelValue, onChange: choose }, this.$slots.default?.() as VNode[]);
    },
};

const Item = {
    props: ['command', 'disabled'],
    render(this: { $slots: Record<string, undefined | (() => unknown)>; disabled?: boolean }) {
        return h('li', { 'data-off': this.disabled || undefined }, this.$slots.default?.() as VNode[]);
    },
};

/** Puts a component on the page, with those of the library it needs left out. */
export function shown<T extends Component>(component: T, props: Record<string, unknown>): VueWrapper {
    return mount(component as Component, {
        props,
        attachTo: document.body,
        global: {
            stubs: {
                'el-dropdown': slotted('default', 'dropdown'),
                'el-dropdown-menu': slotted('default'),
                'el-dropdown-item': Item,
                'el-select': Select,
                'el-option': {
                    props: ['value', 'label', 'disabled'],
                    template: '<option :value="value" :disabled="disabled">{{ label }}</option>',
                },
                'el-dialog': slotted('default', 'footer'),
                'el-popover': slotted('reference', 'default'),
                'el-alert': {
                    props: ['title', 'type'],
                    template: '<p :data-kind="type">{{ title }}<button @click="$emit(`close`)" /></p>',
                },
            },
        },
    }) as VueWrapper;
}
