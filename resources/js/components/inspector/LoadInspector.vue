<script setup lang="ts">
import { computed } from 'vue';
import { percent } from '@/format';
import { allInserts } from '@/inserts';
import { useLoad } from '@/stores/load';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import FreezeSection from './FreezeSection.vue';

/** What one channel takes, part by part, and its freeze. */
const session = useSession();
const load = useLoad();
const selection = useSelection();
const screen = useScreen();

const id = computed(() => selection.channels.find((one) => session.channel(one)) ?? load.channels[0]?.id);
const channel = computed(() => (id.value === undefined ? undefined : session.channel(id.value)));
const along = computed(() => (selection.channels.length > 0 ? selection.channels : id.value ? [id.value] : []));
const its = computed(() => load.channels.find((one) => one.id === id.value));
const effects = computed(() =>
    Object.entries(its.value?.inserts ?? {})
        .sort(([, one], [, other]) => other - one)
        .map(([insert, share]) => ({ insert, share, facts: session.state?.inserts[insert] })),
);

/** What the effects in each branch take together. */
const branches = computed(() =>
    allInserts([...(channel.value?.inserts ?? []), ...(channel.value?.postInserts ?? [])])
        .flatMap((insert) => (insert.type === 'split' ? insert.branches : []))
        .map((branch) => ({
            id: branch.id,
            name: branch.name,
            share: allInserts(branch.inserts).reduce((sum, one) => sum + (its.value?.inserts[one.id] ?? 0), 0),
        }))
        .filter((one) => one.share > 0),
);

function show(insert: string): void {
    if (id.value !== undefined) {
        screen.view = 'paths';
        selection.selectInsert(id.value, insert);
    }
}
</script>

<template>
    <div class="inspector" data-load-inspector>
        <template v-if="channel">
            <header>
                <h2>{{ channel.name }}</h2>
                <span class="soft">{{ percent(its?.total ?? 0) }} of a core</span>
            </header>
            <table v-if="its">
                <thead>
                    <tr>
                        <th>Part</th>
                        <th>load</th>
                        <th>samples late</th>
                    </tr>
                </thead>
                <tbody>
                    <tr v-for="one in effects" :key="one.insert">
                        <td>
                            <button class="plain fix" title="Shows it on its path" @click="show(one.insert)">
                                {{ one.facts?.label ?? one.insert }}
                            </button>
                        </td>
                        <td class="figure">{{ percent(one.share) }}</td>
                        <td class="figure soft">{{ one.facts?.latency ?? 0 }}</td>
                    </tr>
                    <tr v-for="one in branches" :key="one.id" class="soft">
                        <td>of these in {{ one.name }}</td>
                        <td class="figure">{{ percent(one.share) }}</td>
                        <td />
                    </tr>
                    <tr>
                        <td>{{ channel.frozen ? 'reading the frozen file' : 'reading, sums' }}</td>
                        <td class="figure">{{ percent(its.reading) }}</td>
                        <td />
                    </tr>
                    <tr>
                        <td>gains, meters</td>
                        <td class="figure">{{ percent(its.own) }}</td>
                        <td />
                    </tr>
                </tbody>
            </table>
            <p v-if="its && its.saving !== null" class="hint">
                Frozen it costs {{ percent(Math.max(0, its.total - its.saving)) }} and stays in time.
            </p>
            <FreezeSection :channel="channel" :along="along" />
        </template>
        <p v-else class="hint">Nothing is measured yet.</p>
    </div>
</template>

<style scoped>
table {
    width: 100%;
    border-collapse: collapse;
}

th {
    color: var(--soft);
    font-weight: 400;
    text-align: left;
}

th:not(:first-child),
td:not(:first-child) {
    padding-left: 8px;
    text-align: right;
    white-space: nowrap;
}

td {
    padding: 4px 0;
    border-top: 1px solid var(--contour);
}
</style>
