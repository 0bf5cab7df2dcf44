import type { Channel, AutomationLane, AutomationPoint, ProcessorSpec, SoundSwitch } from '@/api/types';
import { decibels, panText, plain, wholePercent } from '@/format';
import { allInserts, isProcessor } from '@/inserts';
import { rules } from '@/rules';
import { faderTravel, interpolated, positionOf, valueAt, type Travel } from '@/scales';

/** What can be automated on a channel, and how its values are drawn and said. */
export interface LaneControl {
    target: string;
    name: string;
    travel: Travel;
    /** What it stands at where no lane moves it. */
    still: number | null;
    /** Holds its value up to the next point. */
    holds: boolean;
    step: number;
    text: (value: number | null) => string;
}

const gainText = (value: number | null) => `${decibels(value, true)} dB`;

/** A fader or send that stands at a gain where no lane moves it. */
function gainControl(target: string, name: string, still: number | null): LaneControl {
    return { target, name, travel: faderTravel(), still, holds: false, step: 0.5, text: gainText };
}

export function laneOf(channel: Channel, target: string): AutomationLane | undefined {
    return channel.automation?.find((lane) => lane.target === target);
}

const isSwitched = (value: number | null): string => ((value ?? 0) >= 0.5 ? 'on' : 'off');

/** A switch: it holds its value up to the next point. */
function switchControl(target: string, name: string, still: boolean, text = isSwitched): LaneControl {
    return {
        target,
        name,
        travel: { min: 0, max: 1, scale: 'linear' },
        still: still ? 1 : 0,
        holds: true,
        step: 1,
        text,
    };
}

/** Something that goes from 0 to 100 %. */
export function shareControl(target: string, name: string, still: number): LaneControl {
    return {
        target,
        name,
        travel: { min: 0, max: 1, scale: 'linear' },
        still,
        holds: false,
        step: 0.05,
        text: percent,
    };
}

/** Which of its sounds a sound switch stands at. */
function soundControl(of: SoundSwitch): LaneControl {
    const last = Math.max(1, of.sounds.length - 1);
    const at = (value: number | null) => Math.min(of.sounds.length - 1, Math.max(0, Math.round(value ?? 0)));
    return {
        target: `sound:${of.id}`,
        name: of.name,
        travel: { min: 0, max: last, scale: 'linear' },
        still: Math.max(
            0,
            of.sounds.findIndex(({ id }) => id === of.chosen),
        ),
        holds: true,
        step: 1,
        text: (value) => of.sounds[at(value)]?.name ?? '',
    };
}

const percent = (value: number | null) => wholePercent(value ?? 0);

export function controlsOf(
    channel: Channel,
    nameOf: (channel: string) => string,
    specOf: (processor: string) => ProcessorSpec | undefined,
    labelOf: (insert: string) => string,
): LaneControl[] {
    const found: LaneControl[] = [
        gainControl('fader', 'Fader', channel.fader),
        {
            target: 'pan',
            name: 'Pan',
            travel: { min: -1, max: 1, scale: 'linear' },
            still: channel.pan,
            holds: false,
            step: 0.05,
            text: (value) => panText(value ?? 0),
        },
        switchControl('mute', 'Mute', channel.mute, (value) => ((value ?? 0) >= 0.5 ? 'muted' : 'open')),
    ];
    for (const macro of channel.macros ?? []) {
        found.push(
            macro.switch
                ? switchControl(`macro:${macro.id}`, macro.name, macro.value > 0)
                : shareControl(`macro:${macro.id}`, macro.name, macro.value),
        );
    }
    found.push(...(channel.sounds ?? []).filter(({ sounds }) => sounds.length > 1).map(soundControl));
    for (const send of channel.sends) {
        found.push(gainControl(`send:${send.id}`, `Send to ${nameOf(send.to)}`, send.gain ?? null));
    }
    for (const insert of allInserts([...channel.inserts, ...channel.postInserts])) {
        found.push(switchControl(`on:${insert.id}`, `${labelOf(insert.id)}: on`, insert.on));
        if (insert.type === 'split') {
            if (insert.selector) {
                found.push(
                    shareControl(`selector:${insert.id}`, `${labelOf(insert.id)}: selector`, insert.selector.value),
                );
            }
            found.push(
                ...insert.branches.map(({ id, name, gain }) => gainControl(`branch:${id}`, `Level of ${name}`, gain)),
            );
            continue;
        }
        found.push(shareControl(`mix:${insert.id}`, `${labelOf(insert.id)}: mix`, insert.mix ?? 1));
        if (!isProcessor(insert)) {
            continue;
        }
        for (const parameter of specOf(insert.processor)?.parameters ?? []) {
            if (parameter.kind === 'number') {
                found.push({
                    target: `parameter:${insert.id}:${parameter.id}`,
                    name: `${labelOf(insert.id)}: ${parameter.group ? `${parameter.group} ` : ''}${parameter.label}`,
                    travel: { min: parameter.min, max: parameter.max, scale: parameter.scale },
                    still: Number(insert.parameters?.[parameter.id] ?? parameter.default),
                    holds: false,
                    step: (parameter.max - parameter.min) / 100,
                    text: (value) => plain(value ?? 0, parameter.unit, parameter.step),
                });
            }
        }
    }
    return found;
}

/** How far a bent way has come, by the server's table of curves. */
export function bent(share: number, curve: number): number {
    const { curves, shares } = rules().curve;
    const at =
        ((curve - (curves[0] ?? -1)) / ((curves[curves.length - 1] ?? 1) - (curves[0] ?? -1))) * (curves.length - 1);
    const low = Math.min(curves.length - 2, Math.max(0, Math.floor(at)));
    const along = (row: number[] = []) => interpolated(row, share * (row.length - 1));
    const [from, to] = [along(shares[low]), along(shares[low + 1])];
    return from + (to - from) * Math.min(1, Math.max(0, at - low));
}

/** Where a lane stands at a moment, from 0 to 1 of the travel. */
export function travelAt(points: AutomationPoint[], control: LaneControl, at: number): number {
    const first = points[0];
    if (!first) {
        return positionOf(control.still, control.travel);
    }
    const index = points.filter((point) => point.at <= at).length - 1;
    const from = points[Math.max(0, index)] ?? first;
    const to = points[index + 1];
    if (index < 0 || !to || control.holds) {
        return positionOf(from.value, control.travel);
    }
    const [a, b] = [positionOf(from.value, control.travel), positionOf(to.value, control.travel)];
    return a + bent((at - from.at) / (to.at - from.at), from.curve ?? 0) * (b - a);
}

/** The value a lane gives at a moment. */
export function laneValueAt(points: AutomationPoint[], control: LaneControl, at: number): number | null {
    return valueAt(travelAt(points, control, at), control.travel);
}

/** Where an automated fader stands at a moment, to the tenth. */
export function laneFaderAt(points: AutomationPoint[], at: number): number | null {
    const value = laneValueAt(points, gainControl('fader', 'Fader', null), at);
    return value === null ? null : Math.round(value * 10) / 10;
}
