<script setup lang="ts">
import { size } from '@/format';

/** One thing that lies on the disk: its name, what there is to say of it, its size, and what can be done with it. */
defineProps<{ bytes: number }>();
</script>

<template>
    <tr>
        <th scope="row"><slot name="name"></slot></th>
        <td><slot></slot></td>
        <td class="figure">{{ size(bytes) }}</td>
        <td class="act"><slot name="act"></slot></td>
    </tr>
</template>

<style scoped>
tr {
    border-top: 1px solid var(--contour);
}

th,
td {
    padding: 5px 12px 5px 0;
    text-align: left;
    vertical-align: baseline;
    font-weight: 400;
    overflow-wrap: anywhere;
}

th {
    width: 34%;
    font-weight: 500;
}

td.figure {
    width: 84px;
    text-align: right;
    white-space: nowrap;
}

td.act {
    width: 190px;
    padding-right: 0;
    text-align: right;
    white-space: nowrap;
}
</style>
