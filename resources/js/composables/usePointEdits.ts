import { computed, ref, shallowRef } from 'vue';
import type { AutomationPoint, Channel } from '@/api/types';
import { laneOf, type LaneControl } from '@/automation';
import { rules } from '@/rules';
import { positionOf, valueAt } from '@/scales';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSession } from '@/stores/session';

/** Curves nearer to straight than this become straight. */
const STRAIGHT = 0.04;

/** The points of one lane, those that are chosen, and what can be done with them. */
export function usePointEdits(channel: () => Channel, control: () => LaneControl) {
    const session = useSession();
    const listening = useListening();
    const screen = useScreen();

    const chosen = ref<number[]>([]);
    /** As they are drawn while they move. */
    const held = shallowRef<AutomationPoint[] | null>(null);
    const points = computed(() => held.value ?? laneOf(channel(), control().target)?.points ?? []);
    const length = computed(() => Math.max(1, session.document?.length ?? 1));

    function put(next: AutomationPoint[], gesture: string | null = null): Promise<boolean> {
        return session.edit(
            { type: 'set-automation', channel: channel().id, target: control().target, points: next },
            gesture,
        );
    }

    function rounded(value: number | null): number | null {
        if (value === null || control().holds) {
            return value === null ? null : Math.round(value);
        }
        return control().travel.scale === 'fader' ? Math.round(value * 10) / 10 : Number(value.toPrecision(4));
    }

    /** Dragged, a point goes to the end of its control; one that stands above it can come down. */
    function movedTravel(value: number | null, by: number): number {
        const before = positionOf(value, control().travel);
        return Math.min(Math.max(1, before), before + by);
    }

    /** The lane with some points moved: none past its neighbours, all as far as each other. */
    function moved(list: AutomationPoint[], which: number[], by: number, travelBy: number): AutomationPoint[] {
        let least = -Infinity;
        let most = Infinity;
        for (const index of which) {
            const { at } = list[index] as AutomationPoint;
            const before = which.includes(index - 1) ? -Infinity : (list[index - 1]?.at ?? -1) + 1 - at;
            const after = which.includes(index + 1) ? Infinity : (list[index + 1]?.at ?? length.value + 1) - 1 - at;
            least = Math.max(least, before, -at);
            most = Math.min(most, after, length.value - at);
        }
        const shift = Math.round(Math.max(least, Math.min(most, by)));
        return list.map((point, index) =>
            which.includes(index)
                ? {
                      ...point,
                      at: point.at + shift,
                      value: rounded(valueAt(movedTravel(point.value, travelBy), control().travel)),
                  }
                : point,
        );
    }

    function bent(list: AutomationPoint[], index: number, curve: number): AutomationPoint[] {
        const clamped = Math.round(Math.max(-1, Math.min(1, curve)) * 100) / 100;
        return list.map((point, at) =>
            at === index ? { ...point, curve: Math.abs(clamped) < STRAIGHT ? 0 : clamped } : point,
        );
    }

    /** Adds a point, in the place of one at the same moment, and chooses it. */
    async function addAt(at: number, value: number | null): Promise<void> {
        const others = points.value.filter((point) => point.at !== at);
        const next = [...others, { at, value }].sort((a, b) => a.at - b.at);
        await put(next);
        chosen.value = [next.findIndex((point) => point.at === at)];
    }

    async function remove(): Promise<void> {
        const which = chosen.value;
        chosen.value = [];
        await put(points.value.filter((_, index) => !which.includes(index)));
    }

    function copy(): void {
        const list = chosen.value.flatMap((index) => points.value[index] ?? []).sort((a, b) => a.at - b.at);
        const first = list[0]?.at ?? 0;
        screen.copiedPoints = list.map((point) => ({ ...point, at: point.at - first }));
    }

    /** Puts copied points where the playhead is; what lies between the first and the last of them makes room. */
    async function paste(): Promise<void> {
        const copied = screen.copiedPoints;
        const from = Math.round(listening.position);
        const to = from + (copied[copied.length - 1]?.at ?? -1);
        const { travel } = control();
        const added = copied
            .map((point) => ({
                ...point,
                at: point.at + from,
                value: rounded(valueAt(positionOf(point.value, travel), travel)),
            }))
            .filter((point) => point.at <= length.value);
        if (added.length > 0) {
            const others = points.value.filter((point) => point.at < from || point.at > to);
            await put([...others, ...added].sort((a, b) => a.at - b.at));
        }
    }

    /** Sets the chosen points to a value that was typed, as far as automation may hold it. */
    function setValue(value: number | null): void {
        const { travel } = control();
        const isFader = travel.scale === 'fader';
        if (value === null && !isFader) {
            return;
        }
        const highest = isFader ? rules().fader.highestAutomated : travel.max;
        const clamped = value === null ? null : Math.max(travel.min, Math.min(highest, value));
        void put(points.value.map((point, at) => (chosen.value.includes(at) ? { ...point, value: clamped } : point)));
    }

    return { points, chosen, held, length, put, rounded, moved, bent, addAt, remove, copy, paste, setValue };
}
