<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api } from '@/api/client';
import type { AfterPrint, PrintTap, PrintWish } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import RealTimeNote from '@/components/inputs/RealTimeNote.vue';
import FormatChoice from './FormatChoice.vue';
import RangeChoice from './RangeChoice.vue';
import { choiceOfTail, TAIL_CHOICES, tailOf } from '@/choices';
import { decibels } from '@/format';
import { rules } from '@/rules';
import { useFreezes } from '@/stores/freezes';
import { useListening } from '@/stores/listening';
import { tellRefusal } from '@/stores/notices';
import { useScreen } from '@/stores/screen';
import { useSession } from '@/stores/session';
import { useSurvey } from '@/stores/survey';

/** Prints the channels that are selected: from where, how long, in which format, whereto, and what becomes of them. */
const session = useSession();
const screen = useScreen();
const freezes = useFreezes();
const listening = useListening();
const survey = useSurvey();

const TAPS: { value: PrintTap; name: string }[] = [
    { value: 'source', name: 'dry: after clip gain and trim' },
    { value: 'pre-fader', name: 'through its inserts' },
    { value: 'post-fader', name: 'through its fader and pan' },
    { value: 'main', name: 'alone, through its group and the main' },
];
const AFTER: { value: AfterPrint; name: string }[] = [
    { value: 'mute', name: 'muted' },
    { value: 'off', name: 'switched off: no load, no memory' },
    { value: 'hide', name: 'muted and hidden' },
    { value: 'keep', name: 'kept as it is' },
];

const tap = ref<PrintTap>('pre-fader');
const tail = ref(choiceOfTail('auto'));
const format = ref<'16' | '24' | '32f'>('32f');
const isLoopOnly = ref(false);
const whereto = ref<'track' | 'place' | 'files'>('track');
const after = ref<AfterPrint>('mute');
const pattern = ref('{channel} printed');
const isTogether = ref(false);
const returns = ref<'apart' | 'with-senders'>('apart');
const advice = ref<string[]>([]);

const channels = computed(() => session.channels.filter((one) => screen.printing?.includes(one.id)));
const isOpen = computed({
    get: () => channels.value.length > 0,
    set: (open) => (screen.printing = open ? screen.printing : null),
});
const title = computed(() =>
    channels.value.length === 1 ? `Print ${channels.value[0]?.name}` : `Print ${channels.value.length} channels`,
);
const canBeInPlace = computed(() =>
    channels.value.every(
        (one) => one.kind === 'track' && 'clips' in one.source && one.source.clips.length > 0 && !one.frozen,
    ),
);
const canBeTogether = computed(() => channels.value.length > 1 && whereto.value !== 'place');
/** Whether what the returns bring can be in the files of what sends to them. */
const canHaveReturns = computed(
    () =>
        whereto.value === 'files' &&
        tap.value === 'post-fader' &&
        !(canBeTogether.value && isTogether.value) &&
        channels.value.some((one) => one.sends.length > 0 || one.kind === 'group'),
);
const formats = computed(() => rules().formats);
const wish = computed<PrintWish>(() => ({
    channels: channels.value.map((one) => one.id),
    tap: tap.value,
    from: isLoopOnly.value && listening.loop ? Math.round(listening.loop.start) : 0,
    ...(isLoopOnly.value && listening.loop ? { to: Math.round(listening.loop.end) } : {}),
    tail: tailOf(tail.value),
    format: format.value,
    inPlace: whereto.value === 'place',
    toFiles: whereto.value === 'files',
    together: canBeTogether.value && isTogether.value,
    withReturns: canHaveReturns.value && returns.value === 'with-senders',
    after: after.value,
    name: pattern.value.trim() || '{channel} printed',
}));
const seconds = computed(() => {
    const { sampleRate = 48000, length = 0 } = session.document ?? {};
    return ((wish.value.to ?? length) - wish.value.from) / sampleRate;
});
/** Those that lie above full scale at the tap that is printed, as far as they are measured. */
const clipping = computed(() => {
    if (formats.value.find((one) => one.id === format.value)?.isFloat || tap.value === 'main') {
        return [];
    }
    return channels.value.flatMap((one) => {
        const peak = survey.state?.result?.taps[`${one.id}:${tap.value}`]?.peak ?? null;
        return peak !== null && peak > rules().fullScale ? [`${one.name} at ${decibels(peak, true)} dBFS`] : [];
    });
});

watch([isOpen, wish], async ([open]) => {
    advice.value = [];
    if (!open) {
        return;
    }
    try {
        const asked = wish.value;
        const answer = await session.ask((path) => api.post<{ advice: string[] }>(`${path}/prints/advice`, asked));
        if (asked === wish.value) {
            advice.value = answer?.advice ?? [];
        }
    } catch (error) {
        tellRefusal(error);
    }
});
watch([canBeInPlace, tap], () => {
    const isImpossible =
        (whereto.value === 'place' && !canBeInPlace.value) || (whereto.value === 'files' && tap.value === 'main');
    whereto.value = isImpossible ? 'track' : whereto.value;
});

async function print(): Promise<void> {
    if (await freezes.print(wish.value)) {
        screen.printing = null;
    }
}
</script>

<template>
    <el-dialog v-model="isOpen" :title="title" width="540px" class="print" :close-on-click-modal="false">
        <div class="form" data-print>
            <label for="print-tap">From where</label>
            <ChoiceMenu id="print-tap" v-model="tap" data-print-tap label="From where" :items="TAPS" />
            <span>Range</span>
            <RangeChoice v-model="isLoopOnly" name="print-range" />
            <label for="print-tail">Tail</label>
            <ChoiceMenu id="print-tail" v-model="tail" label="Tail of the print" :items="TAIL_CHOICES" />
            <span>Format</span>
            <FormatChoice v-model="format" name="print-format" />
            <span>Whereto</span>
            <div class="choices">
                <label
                    ><input v-model="whereto" type="radio" name="print-place" value="track" /> A new track below</label
                >
                <label
                    :title="
                        canBeInPlace ? 'What it takes the place of is kept as a version' : 'Only tracks carry clips'
                    "
                    ><input v-model="whereto" type="radio" name="print-place" value="place" :disabled="!canBeInPlace" />
                    In place of its clips</label
                >
                <label :title="tap === 'main' ? 'For the main there is Render' : 'Of one length, with a list'"
                    ><input
                        v-model="whereto"
                        type="radio"
                        name="print-place"
                        value="files"
                        :disabled="tap === 'main'"
                    />
                    Files</label
                >
            </div>
            <template v-if="canBeTogether">
                <span>Each or all</span>
                <div class="choices">
                    <label
                        ><input v-model="isTogether" type="radio" name="print-together" :value="false" /> Each to its
                        own audio</label
                    >
                    <label title="What is heard through another of them is in it once"
                        ><input
                            v-model="isTogether"
                            type="radio"
                            name="print-together"
                            :value="true"
                            data-print-together
                        />
                        All to one</label
                    >
                </div>
            </template>
            <template v-if="canHaveReturns">
                <span>Returns</span>
                <div class="choices">
                    <label title="A return is a file of its own, where it is selected"
                        ><input v-model="returns" type="radio" name="print-returns" value="apart" /> Apart</label
                    >
                    <label title="What returns and groups make of each channel, up to the main, is in its file"
                        ><input v-model="returns" type="radio" name="print-returns" value="with-senders" /> In the files
                        of what sends to them</label
                    >
                </div>
            </template>
            <template v-if="whereto !== 'place'">
                <label for="print-name">Name</label>
                <input
                    id="print-name"
                    v-model="pattern"
                    maxlength="120"
                    title="{channel}, {tap}, {date} and {n} are filled in"
                    @keydown.stop
                />
                <label v-if="whereto === 'track'" for="print-after">{{
                    channels.length === 1 ? 'Its source is' : 'Sources are'
                }}</label>
                <ChoiceMenu
                    v-if="whereto === 'track'"
                    id="print-after"
                    v-model="after"
                    data-print-after
                    label="What becomes of the source"
                    :items="AFTER"
                />
            </template>
        </div>
        <RealTimeNote
            :channels="tap === 'source' ? [] : wish.channels"
            :seconds="seconds"
            :is-together="wish.together"
        />
        <ul v-if="advice.length > 0 || clipping.length > 0" class="advice" data-print-advice>
            <li v-for="sentence in advice" :key="sentence">{{ sentence }}</li>
            <li v-if="clipping.length > 0" class="clips">
                This format would cut {{ clipping.join(', ') }}.
                <button class="plain fix" @click="format = '32f'">Use 32-bit float</button>
            </li>
        </ul>
        <template #footer>
            <button class="pill on" :disabled="freezes.isRunning" @click="print">Print</button>
        </template>
    </el-dialog>
</template>

<style scoped src="./dialog.css"></style>

<style scoped>
.advice {
    margin: 14px 0 0;
    padding: 7px 12px 7px 28px;
    border-left: 3px solid var(--brass);
    background: var(--paper);
}

.clips {
    color: var(--buoy-text);
}
</style>
