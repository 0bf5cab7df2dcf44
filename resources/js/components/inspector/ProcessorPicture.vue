<script setup lang="ts">
import { computed, ref } from 'vue';
import { followPointer } from '@/composables/followPointer';
import type { Axis, Picture } from '@/api/types';
import type { BandRange, Watched } from '@/listening/frames';
import { newGesture } from '@/gesture';

/** A picture the engine drew for a processor's values; its handles can be dragged. */
const props = defineProps<{
    picture: Picture;
    levelIn: number | null;
    reduction: number;
    /** Levels by frequency, drawn behind a response on a scale of their own. */
    watched?: Watched | null;
}>();
const emit = defineEmits<{ set: [parameter: string, value: number, gesture: string]; focus: [parameter: string] }>();

const WIDTH = 276;
const HEIGHT = 168;
const drawing = ref<SVGSVGElement>();

function share(axis: Axis, value: number): number {
    const v = Math.min(axis.max, Math.max(axis.min, value));
    return axis.scale === 'logarithmic'
        ? Math.log(v / axis.min) / Math.log(axis.max / axis.min)
        : (v - axis.min) / (axis.max - axis.min);
}

function valueAt(axis: Axis, where: number): number {
    const p = Math.min(1, Math.max(0, where));
    return axis.scale === 'logarithmic' ? axis.min * (axis.max / axis.min) ** p : axis.min + p * (axis.max - axis.min);
}

const x = (value: number) => share(props.picture.x, value) * WIDTH;
const y = (value: number) => HEIGHT - share(props.picture.y, value) * HEIGHT;

const curves = computed(() =>
    props.picture.curves.map((curve) => ({
        label: curve.label,
        points: curve.points.map(([px, py]) => `${x(px).toFixed(1)},${y(py).toFixed(1)}`).join(' '),
        isGuide: curve.label === 'unchanged',
    })),
);

function steps(axis: Axis, count: number): number[] {
    if (axis.scale === 'logarithmic') {
        return [50, 100, 200, 500, 1000, 2000, 5000, 10000].filter((value) => value > axis.min && value < axis.max);
    }
    const raw = (axis.max - axis.min) / count;
    const size = [1, 2, 5, 6, 10, 12, 20, 50, 100, 200, 500, 1000, 2000, 5000].find((step) => step >= raw) ?? raw;
    const found: number[] = [];
    for (let value = Math.ceil(axis.min / size) * size; value < axis.max; value += size) {
        if (value > axis.min) {
            found.push(value);
        }
    }
    return found;
}

const verticals = computed(() => steps(props.picture.x, 6));
const horizontals = computed(() => steps(props.picture.y, 4));
const tick = (value: number) =>
    value >= 1000 && props.picture.x.unit === 'Hz' ? `${value / 1000}k` : String(value).replace('-', '−');

/** The level that goes in now, on the curve. */
const now = computed(() => {
    if (props.picture.reading !== 'transfer' || props.levelIn === null) {
        return null;
    }
    const points = props.picture.curves[props.picture.curves.length - 1]?.points ?? [];
    const nearest = points.reduce<[number, number] | null>(
        (best, point) =>
            best === null || Math.abs(point[0] - props.levelIn!) < Math.abs(best[0] - props.levelIn!) ? point : best,
        null,
    );
    return nearest && props.levelIn >= props.picture.x.min ? { x: x(nearest[0]), y: y(nearest[1]) } : null;
});

/** dBFS at the lower and the upper edge, where levels stand behind a response. */
const LEVELS = { unit: 'dBFS', min: -96, max: 0, scale: 'linear' } as const;
const levelY = (level: number | null) => HEIGHT - share(LEVELS, level ?? LEVELS.min) * HEIGHT;

/** From the quiet to the loud moments before the insert; the same behind it; what leaves it now. */
const levels = computed(() => {
    const seen = props.watched;
    if (!seen || props.picture.reading !== 'response') {
        return null;
    }
    const at = (index: number) => x(seen.frequencies[index] ?? 0).toFixed(1);
    const line = (ranges: BandRange[], which: 0 | 1 | 2) =>
        ranges.map((range, index) => `${at(index)},${levelY(range[which]).toFixed(1)}`);
    const area = (ranges: BandRange[]) => [...line(ranges, 2), ...line(ranges, 1).reverse()].join(' ');
    const hasSound = (ranges: BandRange[]) => ranges.some((range) => range[2] !== null);
    return {
        before: hasSound(seen.before) ? area(seen.before) : '',
        after: hasSound(seen.after) ? area(seen.after) : '',
        now: line(seen.after, 0).join(' '),
    };
});

function grab(event: PointerEvent, index: number): void {
    const handle = props.picture.handles[index];
    const box = drawing.value?.getBoundingClientRect();
    if (!handle || !box || event.button !== 0) {
        return;
    }
    event.preventDefault();
    const gesture = newGesture();
    const { xParameter, yParameter } = handle;
    emit('focus', xParameter ?? yParameter ?? '');
    let lastX = Number.NaN;
    let lastY = Number.NaN;
    const move = (moved: PointerEvent) => {
        if (xParameter && moved.clientX !== lastX) {
            lastX = moved.clientX;
            const value = valueAt(props.picture.x, (moved.clientX - box.left) / box.width);
            emit('set', xParameter, Number(value.toPrecision(4)), `${gesture}x`);
        }
        if (yParameter && moved.clientY !== lastY) {
            lastY = moved.clientY;
            const value = valueAt(props.picture.y, 1 - (moved.clientY - box.top) / box.height);
            emit('set', yParameter, Math.round(value * 10) / 10, `${gesture}y`);
        }
    };
    followPointer(move);
}
</script>

<template>
    <figure class="picture">
        <svg ref="drawing" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="picture.title">
            <line
                v-for="value in verticals"
                :key="`v${value}`"
                class="grid"
                :x1="x(value)"
                :x2="x(value)"
                y1="0"
                :y2="HEIGHT"
            />
            <line
                v-for="value in horizontals"
                :key="`h${value}`"
                class="grid"
                :class="{ zero: value === 0 }"
                x1="0"
                :x2="WIDTH"
                :y1="y(value)"
                :y2="y(value)"
            />
            <g v-if="levels" class="levels" data-levels>
                <polygon v-if="levels.before" class="before" :points="levels.before" />
                <polygon v-if="levels.after" class="after" :points="levels.after" />
                <polyline class="level-now" :points="levels.now" />
                <text v-for="level in [-24, -48, -72]" :key="level" class="tick" :x="WIDTH - 3" :y="levelY(level) + 4">
                    {{ String(level).replace('-', '−') }}
                </text>
            </g>
            <text v-for="value in verticals" :key="`vt${value}`" class="tick" :x="x(value) + 3" :y="HEIGHT - 4">
                {{ tick(value) }}
            </text>
            <text v-for="value in horizontals" :key="`ht${value}`" class="tick" x="3" :y="y(value) - 3">
                {{ tick(value) }}
            </text>
            <polyline
                v-for="(curve, index) in curves"
                :key="index"
                :class="['curve', { guide: curve.isGuide }]"
                :points="curve.points"
            />
            <g v-if="now" class="now">
                <circle :cx="now.x" :cy="now.y" r="5" />
                <text v-if="reduction > 0.05" :x="Math.min(now.x + 9, WIDTH - 62)" :y="now.y + 16">
                    −{{ reduction.toFixed(1) }} dB
                </text>
            </g>
            <g
                v-for="(handle, index) in picture.handles"
                :key="`k${index}`"
                class="handle"
                :data-handle="handle.xParameter ?? handle.yParameter"
                @pointerdown="grab($event, index)"
            >
                <circle :cx="x(handle.x)" :cy="y(handle.y)" :r="picture.handles.length > 12 ? 5 : 12" class="reach" />
                <circle
                    :cx="x(handle.x)"
                    :cy="y(handle.y)"
                    :r="picture.handles.length > 12 ? 3.5 : handle.label ? 8 : 6"
                    class="dot"
                />
                <text v-if="handle.label" :x="x(handle.x)" :y="y(handle.y) + 4" text-anchor="middle">
                    {{ handle.label }}
                </text>
            </g>
        </svg>
        <figcaption class="hint">
            {{ picture.title }} · {{ picture.x.unit }} across, {{ picture.y.unit }} up<template v-if="levels"
                >. Levels in dBFS: filled comes in, quiet to loud; dashed leaves; thin now</template
            >
        </figcaption>
    </figure>
</template>

<style scoped>
.picture {
    margin: 0;
}

svg {
    display: block;
    width: 100%;
    border: 1px solid var(--contour);
    background: var(--paper);
    touch-action: none;
}

.grid {
    stroke: var(--contour);
    stroke-width: 1;
}

.zero {
    stroke: var(--soft);
}

.tick {
    fill: var(--soft);
    font:
        12px 'IBM Plex Mono',
        monospace;
    font-size: 10.5px;
}

.levels .before {
    fill: var(--water);
    opacity: 0.35;
}

.levels .after {
    fill: none;
    stroke: var(--deep);
    stroke-width: 0.8;
    stroke-dasharray: 3 2;
}

.level-now {
    fill: none;
    stroke: var(--water);
    stroke-width: 1.2;
}

.levels .tick {
    text-anchor: end;
}

.curve {
    fill: none;
    stroke: var(--deep);
    stroke-width: 2;
    stroke-linejoin: round;
}

.curve.guide {
    stroke: var(--soft);
    stroke-width: 1;
    stroke-dasharray: 3 3;
}

.now circle {
    fill: var(--sheet);
    stroke: var(--brass);
    stroke-width: 2.5;
}

.now text {
    fill: var(--brass-text);
    font:
        12px 'IBM Plex Mono',
        monospace;
}

.handle {
    cursor: grab;
}

.handle .reach {
    fill: transparent;
}

.handle .dot {
    fill: var(--sheet);
    stroke: var(--ink);
    stroke-width: 1.8;
}

.handle text {
    fill: var(--ink);
    font:
        600 11px 'IBM Plex Sans',
        sans-serif;
    pointer-events: none;
}

figcaption {
    padding-top: 3px;
}
</style>
