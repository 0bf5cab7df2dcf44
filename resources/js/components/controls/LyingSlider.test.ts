import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { VueWrapper } from '@vue/test-utils';
import { shown } from '@/testing';
import LyingSlider from './LyingSlider.vue';

let slider: VueWrapper;
const changes = () => (slider.emitted('change') ?? []) as [number | null, string][];
const values = () => changes().map(([value]) => value);

function open(more: Record<string, unknown> = {}): void {
    slider = shown(LyingSlider, {
        modelValue: -6,
        min: -60,
        max: 12,
        default: 0,
        step: 0.5,
        fine: 0.1,
        label: 'Fader',
        text: '−6.0 dB',
        ...more,
    });
}

beforeEach(() => vi.useFakeTimers({ now: 5000 }));
afterEach(() => {
    slider.unmount();
    vi.useRealTimers();
});

describe('a lying slider', () => {
    it('moves by keys, finely with Shift, and keeps a movement one step of undo', async () => {
        open();
        const bar = slider.find('[role=slider]');
        await bar.trigger('keydown', { key: 'ArrowUp' });
        await bar.trigger('keydown', { key: 'ArrowRight', shiftKey: true });
        await bar.trigger('keydown', { key: 'ArrowLeft' });
        expect(values()).toEqual([-5.5, -5.4, -5.9]);
        expect(new Set(changes().map(([, gesture]) => gesture)).size).toBe(1);
        vi.advanceTimersByTime(2000);
        await bar.trigger('keydown', { key: 'ArrowUp' });
        expect(new Set(changes().map(([, gesture]) => gesture)).size).toBe(2);
    });

    it('stays within its range and sends nothing twice', async () => {
        open({ modelValue: 11.8 });
        const bar = slider.find('[role=slider]');
        await bar.trigger('keydown', { key: 'ArrowUp' });
        await bar.trigger('keydown', { key: 'ArrowUp' });
        await bar.trigger('keydown', { key: 'PageUp' });
        expect(values()).toEqual([12]);
    });

    it('goes to its default on a double click', async () => {
        open();
        await slider.find('[role=slider]').trigger('dblclick');
        expect(values()).toEqual([0]);
    });

    it.each([
        ['-12', -12],
        ['−3.25', -3.25],
        ['99', 12],
        ['3,5', 3.5],
    ])('takes what is typed: %s', async (text, value) => {
        open();
        await slider.find('[role=slider]').trigger('keydown', { key: 'Enter' });
        const entry = slider.find('input');
        expect((entry.element as HTMLInputElement).value).toBe('-6');
        await entry.setValue(text);
        await entry.trigger('keydown', { key: 'Enter' });
        expect(values()).toEqual([value]);
    });

    it('takes nothing that is no number, and gives up on Escape', async () => {
        open();
        for (const [text, key] of [
            ['loud', 'Enter'],
            ['-20', 'Escape'],
        ]) {
            await slider.find('[role=slider]').trigger('keydown', { key: 'Enter' });
            const entry = slider.find('input');
            await entry.setValue(text);
            await entry.trigger('keydown', { key });
        }
        expect(values()).toEqual([]);
    });

    it('is silent at the bottom of a fader', async () => {
        open({ scale: 'fader' });
        await slider.find('[role=slider]').trigger('keydown', { key: 'Enter' });
        await slider.find('input').setValue('-inf');
        await slider.find('input').trigger('keydown', { key: 'Enter' });
        expect(values()).toEqual([null]);
    });

    it('goes by shares where its scale is logarithmic', async () => {
        open({ modelValue: 1000, min: 20, max: 20000, scale: 'logarithmic', step: 1, default: 500 });
        await slider.find('[role=slider]').trigger('keydown', { key: 'ArrowUp' });
        await slider.find('[role=slider]').trigger('wheel', { deltaY: 1, shiftKey: true });
        expect(values()).toEqual([1030, 1025]);
    });

    it('lets keys it does not use pass', async () => {
        open();
        const passed = vi.fn();
        slider.element.parentElement?.addEventListener('keydown', passed);
        await slider.find('[role=slider]').trigger('keydown', { key: 'm' });
        await slider.find('[role=slider]').trigger('keydown', { key: 'ArrowUp' });
        await slider.find('[role=slider]').trigger('keydown', { key: 'ArrowUp', altKey: true });
        expect(passed).toHaveBeenCalledTimes(2);
        expect(values()).toEqual([-5.5]);
    });
});
