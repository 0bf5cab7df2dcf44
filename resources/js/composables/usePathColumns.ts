import { computed, ref, type Ref } from 'vue';
import { useSession } from '@/stores/session';

/** Widths a text takes in the shipped fonts, in px; 0 where there is no canvas, as in tests. */
function ruler(): (text: string, font: string) => number {
    const context = document.createElement('canvas').getContext?.('2d') ?? null;
    return (text, font) => {
        if (!context) {
            return 0;
        }
        context.font = font;
        return Math.ceil(context.measureText(text).width);
    };
}

const clamped = (least: number, size: number, most: number) => Math.min(most, Math.max(least, size));

/** Columns of Paths that are as wide as what stands in them: names of channels, targets of sends, outputs. */
export function usePathColumns(isWide: Ref<boolean>) {
    const session = useSession();
    const measure = ruler();
    /** Texts are measured again once the fonts are there. */
    const loaded = ref(false);
    void document.fonts?.ready.then(() => (loaded.value = true));

    return computed(() => {
        void loaded.value;
        const longest = (texts: string[], font: string) => Math.max(0, ...texts.map((text) => measure(text, font)));
        const most = isWide.value ? 210 : 128;
        const words = (text: string) => (isWide.value ? [text] : text.split(/\s+/));
        // Where there is little room a name may take two lines, but no word of it is broken.
        const font = "600 13px 'IBM Plex Sans'";
        const halved = (text: string) => {
            const parts = words(text);
            return Math.min(
                ...parts.map((_, i) => longest([parts.slice(0, i).join(' '), parts.slice(i).join(' ')], font)),
            );
        };
        const names = Math.max(0, ...session.channels.map((channel) => halved(channel.name)));
        const targets = new Set(session.channels.flatMap((channel) => channel.sends.map((send) => send.to)));
        const sends = longest(
            [...targets].map((id) => session.channel(id)?.name ?? id),
            "12px 'IBM Plex Sans'",
        );
        const outputs = longest(
            [...new Set(session.channels.map((channel) => channel.output))].flatMap((id) =>
                words(session.channel(id)?.name ?? id.replace('hw:', 'hw')).map((word) => `→ ${word}`),
            ),
            "14px 'IBM Plex Sans'",
        );
        return {
            '--names': `${clamped(76, names + 6, most)}px`,
            '--sends': `${targets.size === 0 ? 24 : clamped(70, sends + 70, isWide.value ? 190 : 150)}px`,
            '--outputs': `${clamped(44, outputs + 4, isWide.value ? 160 : 84)}px`,
        };
    });
}
