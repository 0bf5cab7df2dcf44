<script setup lang="ts">
import { useControllers, type Mapping } from '@/stores/controllers';

/** Controllers at this machine: connecting them, and what their knobs and keys move. */
const controllers = useControllers();

const TRANSPORT = [
    { target: 'play', name: 'Learn play' },
    { target: 'record', name: 'Learn record' },
];

function from(mapping: Mapping): string {
    return `${mapping.message} ${mapping.number}${mapping.channel > 1 ? `, channel ${mapping.channel}` : ''}`;
}
</script>

<template>
    <section data-controllers>
        <h3>Controllers</h3>
        <template v-if="controllers.access === 'on'">
            <p class="hint">
                {{ controllers.ports.length === 0 ? 'None is plugged in.' : controllers.ports.join(', ') }}
            </p>
            <div class="actions">
                <button
                    class="text-button"
                    title="Then move a control here, and then a knob or key of the controller"
                    data-learn
                    @click="controllers.learning = true"
                >
                    Learn a control
                </button>
                <button
                    v-for="each in TRANSPORT"
                    :key="each.target"
                    class="text-button"
                    @click="controllers.learning = each.target"
                >
                    {{ each.name }}
                </button>
            </div>
        </template>
        <div v-else class="actions">
            <button
                class="text-button"
                data-connect
                :disabled="controllers.access === 'asking'"
                @click="controllers.connect"
            >
                Connect controllers
            </button>
        </div>
        <p v-if="controllers.access === 'refused'" class="hint">
            The browser does not let this page use controllers. Allow MIDI devices for it, then press again.
        </p>
        <p v-if="controllers.access === 'missing'" class="hint">
            This browser has no way to controllers (Web MIDI), or the page is not served from this machine or by https.
        </p>
        <div
            v-for="mapping in controllers.mappings"
            :key="mapping.target"
            class="mapping"
            :data-mapping="mapping.target"
        >
            <span>{{ controllers.nameFor(mapping.target) }}</span>
            <span class="soft" :title="mapping.port">{{ from(mapping) }}</span>
            <button
                class="plain"
                :aria-label="`${controllers.nameFor(mapping.target)} is moved by a controller no more`"
                @click="controllers.forget(mapping)"
            >
                ×
            </button>
        </div>
    </section>
</template>

<style scoped>
.mapping {
    display: grid;
    grid-template-columns: 1fr auto 20px;
    gap: 10px;
    align-items: baseline;
    padding: 3px 0;
    border-top: 1px solid var(--contour);
    overflow-wrap: anywhere;
}
</style>
