import { afterEach, describe, expect, it, vi } from 'vitest';
import { targetAt } from './chipDrag';

/** A chip of 80 by 40 at a position, in the steps a row puts around its chips. */
function chip(id: string, left: number, top: number): string {
    return `<span class="step"><span data-item data-insert="${id}" data-left="${left}" data-top="${top}"></span></span>`;
}

function page(html: string): void {
    document.body.innerHTML = html;
    for (const element of document.querySelectorAll<HTMLElement>('[data-item]')) {
        const { left, top, width = '80', height = '40' } = element.dataset;
        element.getBoundingClientRect = () => new DOMRect(Number(left), Number(top), Number(width), Number(height));
    }
    document.elementFromPoint = vi.fn((x: number, y: number) => {
        const under = [...document.querySelectorAll<HTMLElement>('[data-insert]')].find((element) => {
            const box = element.getBoundingClientRect();
            return x >= box.left && x < box.right && y >= box.top && y < box.bottom;
        });
        return under ?? document.querySelector('[data-drop-row]');
    });
}

const row = (inner: string, branch = '') => `<div data-drop-row="inserts" data-channel="bass" ${branch}>${inner}</div>`;

afterEach(() => {
    document.body.innerHTML = '';
});

describe('what a dragged chip would fall on', () => {
    it('goes before, onto and after a chip by where the pointer is over it', () => {
        page(row(chip('a', 0, 0) + chip('b', 100, 0)));
        expect(targetAt(110, 20, 'a')).toMatchObject({ channel: 'bass', row: 'inserts', at: 1, swap: null });
        expect(targetAt(140, 20, 'a')).toMatchObject({ swap: 'b' });
        expect(targetAt(175, 20, 'a')).toMatchObject({ at: 2, swap: null });
    });

    it('never swaps a chip with itself', () => {
        page(row(chip('a', 0, 0)));
        expect(targetAt(40, 20, 'a')?.swap).toBeNull();
    });

    it('finds the gap between two chips of the second line of a long row', () => {
        page(row(chip('a', 0, 0) + chip('b', 200, 0) + chip('c', 0, 50) + chip('d', 200, 50)));
        expect(targetAt(120, 60, 'x')?.at).toBe(3);
        expect(targetAt(120, 20, 'x')?.at).toBe(1);
        expect(targetAt(300, 60, 'x')?.at).toBe(4);
    });

    it('counts the chips of a branch for the branch, and the split as one for the row', () => {
        const branch = row(chip('c', 120, 60), 'data-branch="second"');
        const split = `<span class="step"><span data-item data-left="100" data-top="0" data-width="200" data-height="120">${branch}</span></span>`;
        page(row(chip('a', 0, 40) + split + chip('d', 320, 40)));
        expect(targetAt(190, 80, 'a')).toMatchObject({ branch: 'second', at: 1, swap: null });
        expect(targetAt(315, 60, 'x')).toMatchObject({ branch: null, at: 2 });
    });

    it('is nothing outside of rows', () => {
        page('<p data-drop-row>no channel</p>');
        expect(targetAt(10, 10, 'a')).toBeNull();
    });
});
