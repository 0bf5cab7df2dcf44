<script setup lang="ts">
const open = defineModel<boolean>({ required: true });

const keys = [
    ['Space', 'play and stop'],
    ['L', 'loop on and off'],
    ['1  2', 'sides of a compare'],
    ['/', 'find and add an effect'],
    ['E', 'selected insert on and off'],
    ['W', 'selected inserts into a branch'],
    ['G', 'group the selected channels'],
    ['Alt ← →', 'move the selected insert'],
    ['← →', 'the insert before or after'],
    ['↑ ↓', 'the channel above or below, with Shift as well'],
    ['A', 'automation lane below the row'],
    ['N', 'notes of the note channel, below its row'],
    ['F', 'find a channel by part of its name'],
    ['I', 'fold the inspector away and back'],
    ['R', 'record what is heard on the selected track, and stop'],
    ['M', 'mute'],
    ['S', 'solo'],
    ['Ctrl A', 'select all tracks'],
    ['Ctrl C  Ctrl V', 'copy inserts, paste on the selection'],
    ['[  ]', 'the preset before or after'],
    ['K', 'the next sound of the channel, with Shift the one before'],
    [',  .', 'the selector of a split to the branch before or after'],
    ['Delete', 'remove what is selected'],
    ['Ctrl Z', 'undo'],
    ['Ctrl Shift Z', 'redo'],
    ['Escape', 'close what is open'],
    ['?', 'this sheet'],
];
const hands = [
    ['Slider', 'drag sideways, Shift is fine; wheel or arrows; double-click for the default; Enter to type'],
    ['Insert', 'drag to move, with Alt to copy, onto the middle of another to swap'],
    ['Finder', 'Tab to the next shelf; Ctrl Enter for a new return; F2 favourite, F4 folder; drag onto a row'],
    ['Tap', 'press a figure to listen there'],
    ['Name', 'stay on it to see the path'],
    ['Sends', 'type an amount; Alt ↑ ↓ or drag; Shift selects a block; P tap, O on and off; Ctrl C, Ctrl V'],
    ['Overview', 'click to go there, drag to loop'],
];
</script>

<template>
    <el-dialog v-model="open" title="Keys" width="600px">
        <div class="sheet">
            <dl>
                <template v-for="[key, what] in keys" :key="key">
                    <dt class="figure">{{ key }}</dt>
                    <dd>{{ what }}</dd>
                </template>
            </dl>
            <dl class="hands">
                <template v-for="[key, what] in hands" :key="key">
                    <dt>{{ key }}</dt>
                    <dd>{{ what }}</dd>
                </template>
            </dl>
        </div>
    </el-dialog>
</template>

<style scoped>
.sheet {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 30px;
}

dl {
    display: grid;
    grid-template-columns: 96px 1fr;
    gap: 5px 10px;
    align-content: start;
    margin: 0;
}

.hands {
    grid-template-columns: 70px 1fr;
    gap: 10px;
}

dt {
    font-weight: 500;
}

dd {
    margin: 0;
}
</style>
