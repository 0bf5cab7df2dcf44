<script setup lang="ts">
/** A name that is read whole, in as many lines as it takes, and can be typed over. */
const props = defineProps<{ name: string }>();
const emit = defineEmits<{ rename: [name: string] }>();

function rename(event: Event): void {
    const field = event.target as HTMLTextAreaElement;
    const name = field.value.trim().replace(/\s+/g, ' ');
    if (name !== '' && name !== props.name) {
        emit('rename', name);
    } else {
        field.value = props.name;
    }
}
</script>

<template>
    <textarea
        class="name"
        rows="1"
        :value="name"
        maxlength="60"
        :aria-label="`Name of ${name}`"
        @keydown.enter.prevent="($event.target as HTMLTextAreaElement).blur()"
        @keydown.stop
        @blur="rename"
    />
</template>

<style scoped>
.name {
    flex: 1;
    min-width: 0;
    margin-left: -5px;
    padding: 1px 4px;
    border: 1px solid transparent;
    border-radius: 4px;
    background: none;
    color: inherit;
    font: inherit;
    font-weight: 600;
    resize: none;
    field-sizing: content;
}

.name:hover,
.name:focus {
    border-color: var(--contour);
}
</style>
