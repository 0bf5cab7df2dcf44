import type { Edit } from '@/api/edits';
import type { Channel, ProcessorSpec } from '@/api/types';
import { allInserts, isProcessor } from '@/inserts';
import { faderTravel, positionOf, valueAt, type Travel } from '@/scales';

/** A control of the session as a controller moves it: by its place from 0 to 1. */
export interface Control {
    name: string;
    /** Where it stands; null where it only does something when it is pressed. */
    place: number | null;
    /** Goes on and off, or is pressed. */
    isSwitch: boolean;
    at: (place: number) => Edit;
}

/** What a controller reads of a session. */
export interface Place {
    channels: Channel[];
    specOf: (processor: string) => ProcessorSpec | undefined;
    labelOf: (insert: string) => string;
}

const SHARE: Travel = { min: 0, max: 1, scale: 'linear' };
const round = (value: number | null, digits: number) => (value === null ? null : Number(value.toFixed(digits)));

/** The control an edit moves, as "fader:cello" or "macro:m1"; null where a controller cannot move it. */
export function controlOf(edit: Edit): string | null {
    switch (edit.type) {
        case 'set-fader':
            return edit.channels.length === 1 ? `fader:${edit.channels[0]}` : null;
        case 'set-pan':
            return edit.channels.length === 1 ? `pan:${edit.channels[0]}` : null;
        case 'set-mute':
            return edit.channels.length === 1 ? `mute:${edit.channels[0]}` : null;
        case 'set-send-gain':
            return edit.sends.length === 1 ? `send:${edit.sends[0]}` : null;
        case 'set-branch-gain':
            return edit.branches.length === 1 ? `branch:${edit.branches[0]}` : null;
        case 'set-insert-on':
            return edit.inserts.length === 1 ? `on:${edit.inserts[0]}` : null;
        case 'set-mix':
            return `mix:${edit.insert}`;
        case 'set-parameter':
            return typeof edit.value === 'number' ? `parameter:${edit.insert}:${edit.parameter}` : null;
        case 'turn-macro':
            return `macro:${edit.macro}`;
        case 'turn-selector':
            return `selector:${edit.split}`;
        case 'choose-sound':
            return `sound:${edit.switch}:${edit.sound}`;
        default:
            return null;
    }
}

function knob(name: string, value: number | null, travel: Travel, digits: number, at: (value: number | null) => Edit) {
    return {
        name,
        place: positionOf(value, travel),
        isSwitch: false,
        at: (place: number) => at(round(valueAt(place, travel), digits)),
    };
}

function toggle(name: string, on: boolean, at: (on: boolean) => Edit): Control {
    return { name, place: on ? 1 : 0, isSwitch: true, at: (place) => at(place >= 0.5) };
}

/** The control of a name; null where the session has it no more. */
export function findControl(target: string, place: Place): Control | null {
    const [kind, id = '', part = ''] = target.split(':');
    for (const channel of place.channels) {
        const found = ofChannel(channel, kind!, id) ?? ofRow(channel, kind!, id, part, place);
        if (found) {
            return found;
        }
    }
    return null;
}

function ofChannel(channel: Channel, kind: string, id: string): Control | null {
    const channels = [channel.id];
    if (channel.id === id) {
        switch (kind) {
            case 'fader':
                return knob(`Fader of ${channel.name}`, channel.fader, faderTravel(), 2, (gain) => ({
                    type: 'set-fader',
                    channels,
                    gain,
                }));
            case 'pan':
                return knob(`Pan of ${channel.name}`, channel.pan, { min: -1, max: 1, scale: 'linear' }, 3, (pan) => ({
                    type: 'set-pan',
                    channels,
                    pan: pan ?? 0,
                }));
            case 'mute':
                return toggle(`Mute of ${channel.name}`, channel.mute, (mute) => ({
                    type: 'set-mute',
                    channels,
                    mute,
                }));
        }
    }
    const send = kind === 'send' ? channel.sends.find((one) => one.id === id) : undefined;
    return send
        ? knob(`Send of ${channel.name}`, send.gain, faderTravel(), 2, (gain) => ({
              type: 'set-send-gain',
              sends: [id],
              gain,
          }))
        : ofHands(channel, kind, id);
}

function ofHands(channel: Channel, kind: string, id: string): Control | null {
    const macro = kind === 'macro' ? channel.macros?.find((one) => one.id === id) : undefined;
    if (macro) {
        const name = `${macro.name} of ${channel.name}`;
        return macro.switch
            ? toggle(name, macro.value > 0, (on) => ({ type: 'turn-macro', macro: id, value: on ? 1 : 0 }))
            : knob(name, macro.value, SHARE, 3, (value) => ({ type: 'turn-macro', macro: id, value: value ?? 0 }));
    }
    return null;
}

function ofRow(channel: Channel, kind: string, id: string, part: string, place: Place): Control | null {
    const sound =
        kind === 'sound'
            ? channel.sounds?.find((one) => one.id === id)?.sounds.find((one) => one.id === part)
            : undefined;
    if (sound) {
        return {
            name: `${sound.name} of ${channel.name}`,
            place: null,
            isSwitch: true,
            at: () => ({ type: 'choose-sound', switch: id, sound: part }),
        };
    }
    for (const insert of allInserts([...channel.inserts, ...channel.postInserts])) {
        const branch = insert.type === 'split' && kind === 'branch' && insert.branches.find((one) => one.id === id);
        if (branch) {
            return knob(`Level of ${branch.name}`, branch.gain, faderTravel(), 2, (gain) => ({
                type: 'set-branch-gain',
                branches: [id],
                gain,
            }));
        }
        if (insert.id !== id) {
            continue;
        }
        const name = `${place.labelOf(id)} of ${channel.name}`;
        if (kind === 'on') {
            return toggle(name, insert.on, (on) => ({ type: 'set-insert-on', inserts: [id], on }));
        }
        if (kind === 'selector' && insert.type === 'split' && insert.selector) {
            return knob(`Selector of ${channel.name}`, insert.selector.value, SHARE, 3, (value) => ({
                type: 'turn-selector',
                split: id,
                value: value ?? 0,
            }));
        }
        if (kind === 'mix' && insert.type !== 'split') {
            return knob(`${name}: mix`, insert.mix, SHARE, 3, (mix) => ({
                type: 'set-mix',
                insert: id,
                mix: mix ?? 0,
            }));
        }
        const spec = kind === 'parameter' && isProcessor(insert) ? place.specOf(insert.processor) : undefined;
        const parameter = spec?.parameters.find((one) => one.id === part);
        if (isProcessor(insert) && parameter?.kind === 'number') {
            const { min, max, scale } = parameter;
            return knob(
                `${name}: ${parameter.label}`,
                Number(insert.parameters[part] ?? parameter.default),
                { min, max, scale },
                4,
                (value) => ({ type: 'set-parameter', insert: id, parameter: part, value: value ?? min }),
            );
        }
    }
    return null;
}
