<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { useCatalogue } from '@/stores/catalogue';
import { useFinder } from '@/stores/finder';
import { useSession } from '@/stores/session';

const finder = useFinder();
const catalogue = useCatalogue();
const session = useSession();
const text = ref('');
const chosen = ref(0);
const field = ref<HTMLInputElement>();

const found = computed(() => catalogue.search(text.value));
/** Splits are no effects: they come after them, and only where a row is being built. */
const splits = computed(() =>
    finder.request && !finder.request.replace && !finder.request.toNewReturn ? catalogue.searchSplits(text.value) : [],
);
const total = computed(() => found.value.length + splits.value.length);
const where = computed(() => {
    const request = finder.request;
    if (!request) {
        return '';
    }
    const names = request.channels.map((id) => session.channel(id)?.name ?? id);
    const list = names.length > 3 ? `${names.length} channels` : names.join(', ');
    const row = request.row === 'postInserts' ? ', after the fader' : '';
    if (request.toNewReturn) {
        return `on a new return, sent to from ${list}`;
    }
    return request.replace ? `in place on ${list}` : `on ${list}${row}`;
});

watch(
    () => finder.request,
    async (request) => {
        if (request) {
            text.value = '';
            chosen.value = 0;
            await nextTick();
            field.value?.focus();
        }
    },
);
watch(text, () => (chosen.value = 0));

function key(event: KeyboardEvent): void {
    event.stopPropagation();
    const last = total.value - 1;
    if (event.key === 'ArrowDown') {
        event.preventDefault();
        chosen.value = Math.min(last, chosen.value + 1);
    } else if (event.key === 'ArrowUp') {
        event.preventDefault();
        chosen.value = Math.max(0, chosen.value - 1);
    } else if (event.key === 'Enter') {
        event.preventDefault();
        const spec = found.value[chosen.value];
        const way = splits.value[chosen.value - found.value.length];
        if (spec) {
            void finder.choose(spec.id);
        } else if (way) {
            void finder.split(way);
        }
    } else if (event.key === 'Escape') {
        finder.close();
    }
}
</script>

<template>
    <div v-if="finder.request" class="veil" @pointerdown.self="finder.close()">
        <div class="finder" role="dialog" aria-label="Find an effect">
            <div class="head">
                <input
                    ref="field"
                    v-model="text"
                    class="field"
                    placeholder="Find an effect or a split: type part of its name or what it does"
                    aria-label="Find an effect"
                    @keydown="key"
                />
                <span class="hint">{{ where }}</span>
            </div>
            <ul role="listbox" aria-label="Effects">
                <li
                    v-for="(spec, index) in found"
                    :key="spec.id"
                    role="option"
                    :aria-selected="index === chosen"
                    :class="{ chosen: index === chosen }"
                    :data-processor="spec.id"
                    @pointermove="chosen = index"
                    @click="finder.choose(spec.id)"
                >
                    <span class="name">{{ spec.name }}</span>
                    <span class="purpose">{{ spec.purpose }}</span>
                    <span v-if="spec.levelDependent" class="mark" title="Sounds different when fed differently"
                        >level-dependent</span
                    >
                    <span class="category">{{
                        text === '' && catalogue.recent.includes(spec.id) ? 'recent' : spec.category
                    }}</span>
                </li>
                <li
                    v-for="(way, index) in splits"
                    :key="way.id"
                    role="option"
                    :aria-selected="found.length + index === chosen"
                    :class="{ chosen: found.length + index === chosen }"
                    :data-split-way="way.id"
                    @pointermove="chosen = found.length + index"
                    @click="finder.split(way)"
                >
                    <span class="name">{{ way.name }}</span>
                    <span class="purpose">{{ way.purpose }}</span>
                    <span class="category">{{ way.stored ? 'own split' : 'split' }}</span>
                </li>
                <li v-if="total === 0" class="none">
                    Nothing is called that. Try “dynamics”, “tone”, “space”, “level” or “split”.
                </li>
            </ul>
            <p class="hint foot">↑ ↓ choose · Enter adds · Esc closes</p>
        </div>
    </div>
</template>

<style scoped>
.veil {
    position: fixed;
    inset: 0;
    z-index: 60;
    background: rgb(10 25 32 / 28%);
}

.finder {
    width: min(620px, 92vw);
    margin: 90px auto 0;
    background: var(--sheet);
    border: 1px solid var(--contour);
    border-radius: 6px;
    box-shadow: 0 10px 40px rgb(0 0 0 / 22%);
}

.head {
    padding: 12px 16px 8px;
    border-bottom: 1px solid var(--contour);
}

.field {
    width: 100%;
    border: 0;
    outline: 0;
    background: none;
    font-size: 16px;
}

ul {
    margin: 0;
    padding: 6px 0;
    list-style: none;
    max-height: 400px;
    overflow: auto;
}

li {
    display: grid;
    grid-template-columns: 130px 1fr auto 74px;
    gap: 12px;
    align-items: baseline;
    padding: 6px 16px;
    cursor: pointer;
}

li.chosen {
    background: var(--shoal-wash);
    box-shadow: inset 3px 0 0 var(--deep);
}

.name {
    font-weight: 500;
}

.purpose,
.category,
.none {
    color: var(--soft);
}

.category {
    text-align: right;
}

.category {
    grid-column: 4;
}

.mark {
    grid-column: 3;
    font-size: 12px;
    color: var(--brass-text);
}

li.none {
    display: block;
    cursor: default;
}

.foot {
    margin: 0;
    padding: 6px 16px 10px;
    border-top: 1px solid var(--contour);
}
</style>
