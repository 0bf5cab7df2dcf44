<script setup lang="ts">
import { useEventListener, useStorage } from '@vueuse/core';
import { onMounted, ref, watch } from 'vue';
import KeysSheet from '@/components/shell/KeysSheet.vue';
import ListenBar from '@/components/shell/ListenBar.vue';
import NoticeStrip from '@/components/shell/NoticeStrip.vue';
import QuickFinder from '@/components/shell/QuickFinder.vue';
import PrintDialog from '@/components/sessions/PrintDialog.vue';
import RecordingStrip from '@/components/shell/RecordingStrip.vue';
import WaitingStrip from '@/components/shell/WaitingStrip.vue';
import RenderDialog from '@/components/sessions/RenderDialog.vue';
import TheInspector from '@/components/inspector/TheInspector.vue';
import TopBar from '@/components/shell/TopBar.vue';
import { useInspectorFold } from '@/composables/useInspectorFold';
import { useKeys } from '@/composables/useKeys';
import { loadRules } from '@/rules';
import { useCatalogue } from '@/stores/catalogue';
import { useHardware } from '@/stores/hardware';
import { tellRefusal } from '@/stores/notices';
import { useSession } from '@/stores/session';
import { useShelf } from '@/stores/shelf';
import { useScreen } from '@/stores/screen';
import FreezeProgress from '@/components/shell/FreezeProgress.vue';
import LoadView from '@/views/LoadView.vue';
import HeadroomView from '@/views/HeadroomView.vue';
import InputsView from '@/views/InputsView.vue';
import PathsView from '@/views/PathsView.vue';
import SendsView from '@/views/SendsView.vue';

const session = useSession();
const catalogue = useCatalogue();
const shelf = useShelf();
const screen = useScreen();
const hardware = useHardware();
const isRenderOpen = ref(false);
const areKeysOpen = ref(false);
const look = useStorage('hafen.look', 'day');
const isReady = ref(false);

const inspector = useInspectorFold();

useKeys({ showKeys: () => (areKeysOpen.value = true), foldInspector: inspector.toggle });

function changeLook(): void {
    look.value = look.value === 'day' ? 'night' : 'day';
}

watch(look, (now) => (document.documentElement.dataset.look = now), { immediate: true });

async function begin(): Promise<void> {
    try {
        await Promise.all([loadRules(), catalogue.load(), shelf.load(), hardware.load(), session.list()]);
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

/** Back and forward in the browser go from session to session. */
function goBack(): void {
    const wanted = Number(new URLSearchParams(location.search).get('session'));
    if (wanted > 0 && wanted !== session.state?.id) {
        void session.open(wanted, true).catch(tellRefusal);
    }
}

onMounted(() => {
    void begin();
});
useEventListener(window, 'focus', refresh);
useEventListener(window, 'popstate', goBack);
</script>

<template>
    <div
        class="frame"
        :class="{
            folded: inspector.isFolded.value,
            narrow: !inspector.isUsed.value,
            figures: screen.view === 'headroom' && !inspector.isFolded.value,
        }"
        :data-ready="isReady"
    >
        <TopBar class="top" :look="look" @render="isRenderOpen = true" @keys="areKeysOpen = true" @look="changeLook" />
        <InputsView v-if="screen.view === 'inputs'" class="view" />
        <SendsView v-else-if="screen.view === 'sends'" class="view" />
        <HeadroomView v-else-if="screen.view === 'headroom'" class="view" />
        <LoadView v-else-if="screen.view === 'load'" class="view" />
        <PathsView v-else class="view" />
        <TheInspector
            class="aside"
            :is-folded="inspector.isFolded.value"
            @fold="inspector.fold"
            @unfold="inspector.unfold"
        />
        <div class="notices">
            <RecordingStrip />
            <FreezeProgress />
            <WaitingStrip />
            <NoticeStrip />
        </div>
        <ListenBar class="listen" />
        <QuickFinder />
        <RenderDialog v-model="isRenderOpen" />
        <PrintDialog />
        <KeysSheet v-model="areKeysOpen" />
    </div>
</template>

<style scoped>
.frame {
    --inspector: 280px;

    display: grid;
    grid-template:
        'top top' 48px
        'view aside' minmax(0, 1fr)
        'notices notices' auto
        'listen listen' 84px
        / minmax(0, 1fr) var(--inspector);
    height: 100vh;
}

.frame.narrow {
    --inspector: 220px;
}

.frame.figures {
    --inspector: 336px;
}

.frame.folded {
    --inspector: 20px;
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

.notices {
    grid-area: notices;
}

.listen {
    grid-area: listen;
}

@media (min-width: 1500px) {
    .frame:not(.folded) {
        --inspector: 330px;
    }
}

@media (max-width: 1180px) {
    .frame:not(.folded, .narrow, .figures) {
        --inspector: 268px;
    }
}
</style>
