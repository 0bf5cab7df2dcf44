<script setup lang="ts">
import { onMounted, onUnmounted, ref } from 'vue';
import KeysSheet from '@/components/KeysSheet.vue';
import ListenBar from '@/components/ListenBar.vue';
import QuickFinder from '@/components/QuickFinder.vue';
import RenderDialog from '@/components/RenderDialog.vue';
import TheInspector from '@/components/TheInspector.vue';
import TopBar from '@/components/TopBar.vue';
import { useKeys } from '@/keys';
import { useCatalogue } from '@/stores/catalogue';
import { tellRefusal } from '@/stores/notices';
import { useSession } from '@/stores/session';
import { useShelf } from '@/stores/shelf';
import { useScreen } from '@/stores/screen';
import HeadroomView from '@/views/HeadroomView.vue';
import PathsView from '@/views/PathsView.vue';
import SendsView from '@/views/SendsView.vue';

const session = useSession();
const catalogue = useCatalogue();
const shelf = useShelf();
const screen = useScreen();
const isRenderOpen = ref(false);
const areKeysOpen = ref(false);
const look = ref(document.documentElement.dataset.look ?? 'day');
const isReady = ref(false);

useKeys(() => (areKeysOpen.value = true));

function changeLook(): void {
    look.value = look.value === 'day' ? 'night' : 'day';
    document.documentElement.dataset.look = look.value;
    localStorage.setItem('hafen.look', look.value);
}

async function begin(): Promise<void> {
    try {
        await Promise.all([catalogue.load(), shelf.load(), session.list()]);
        const wanted = Number(
            new URLSearchParams(location.search).get('session') ?? localStorage.getItem('hafen.session'),
        );
        const known = session.all.find((entry) => entry.id === wanted) ?? session.all[0];
        await (known ? session.open(known.id) : session.create('First session'));
        isReady.value = true;
    } catch (error) {
        tellRefusal(error);
    }
}

const refresh = () => void session.refresh().catch(() => undefined);

onMounted(() => {
    void begin();
    window.addEventListener('focus', refresh);
});
onUnmounted(() => window.removeEventListener('focus', refresh));
</script>

<template>
    <div class="frame" :data-ready="isReady">
        <TopBar class="top" :look="look" @render="isRenderOpen = true" @keys="areKeysOpen = true" @look="changeLook" />
        <SendsView v-if="screen.view === 'sends'" class="view" />
        <HeadroomView v-else-if="screen.view === 'headroom'" class="view" />
        <PathsView v-else class="view" />
        <TheInspector class="aside" />
        <ListenBar class="listen" />
        <QuickFinder />
        <RenderDialog v-model="isRenderOpen" />
        <KeysSheet v-model="areKeysOpen" />
    </div>
</template>

<style scoped>
.frame {
    display: grid;
    grid-template:
        'top top' 48px
        'view aside' minmax(0, 1fr)
        'listen listen' 84px
        / minmax(0, 1fr) 312px;
    height: 100vh;
}

.top {
    grid-area: top;
}

.view {
    grid-area: view;
}

.aside {
    grid-area: aside;
}

.listen {
    grid-area: listen;
}

@media (max-width: 1180px) {
    .frame {
        grid-template-columns: minmax(0, 1fr) 276px;
    }
}
</style>
