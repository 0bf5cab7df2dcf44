import { computed } from 'vue';
import { describe, expect, it } from 'vitest';
import { LiveLevels } from './liveLevels';

const reading = (peak: number, overs = 0) => ({ peak, rms: peak - 3, overs, reduction: 0 });

describe('levels while it plays', () => {
    it('holds a peak, counts what was above full scale, and says silence', () => {
        const levels = new LiveLevels(() => true);
        levels.take({ 'cello:source': reading(-6, 2), 'bass:source': reading(-Infinity) }, 10);
        levels.take({ 'cello:source': reading(-20, 1), 'bass:source': reading(-Infinity) }, 10.5);
        levels.draw();
        expect(levels.level('cello:source')).toEqual({ peak: -6, rms: -23, overs: 3, reduction: 0 });
        expect(levels.level('bass:source')?.peak).toBeNull();
        levels.take({ 'cello:source': reading(-20) }, 11.3);
        levels.draw();
        expect(levels.level('cello:source')?.peak).toBe(-20);
        levels.end();
        expect(levels.level('cello:source')).toBeNull();
        levels.begin();
        levels.take({ 'cello:source': reading(-30) }, 11.4);
        levels.draw();
        expect(levels.level('cello:source')).toMatchObject({ peak: -30, overs: 0 });
    });

    it('draws channels nobody looks at now and then, and at once when somebody does', () => {
        const looked = new Set(['bass']);
        const levels = new LiveLevels((channel) => looked.has(channel));
        let drawn = 0;
        const cello = computed(() => {
            drawn++;
            return levels.level('cello:source')?.peak;
        });
        for (let i = 0; i < 12; i++) {
            levels.take({ 'cello:source': reading(i), 'bass:source': reading(i) }, i);
            levels.draw();
            void cello.value;
            expect(levels.level('bass:source')?.peak).toBe(i);
        }
        expect(drawn).toBe(2);
        expect(cello.value).toBe(6);
        looked.add('cello');
        levels.draw();
        expect(cello.value).toBe(11);
    });
});
