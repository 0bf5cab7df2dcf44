import { describe, expect, it } from 'vitest';
import { FrameParser, type AudioFrame, type Layout, type MeterFrame, type Notice } from './frames';

function frame(kind: string, payload: Uint8Array): Uint8Array {
    const bytes = new Uint8Array(5 + payload.length);
    bytes[0] = kind.charCodeAt(0);
    new DataView(bytes.buffer).setUint32(1, payload.length, true);
    bytes.set(payload, 5);
    return bytes;
}

function numbers(position: number, values: number[], count?: number): Uint8Array {
    const head = count === undefined ? 8 : 12;
    const bytes = new Uint8Array(head + 4 * values.length);
    const view = new DataView(bytes.buffer);
    view.setFloat64(0, position, true);
    if (count !== undefined) {
        view.setUint32(8, count, true);
    }
    values.forEach((value, i) => view.setFloat32(head + 4 * i, value, true));
    return bytes;
}

function stream(): Uint8Array {
    const text = new TextEncoder();
    const layout = {
        sampleRate: 48000,
        length: 96000,
        change: 4,
        position: 0,
        taps: ['a:source', 'b:source', 'a:post-fader'],
        loads: ['a'],
        tap: 'main:post-fader',
    };
    const parts = [
        text.encode('HAFEN1\n\0'),
        frame('L', text.encode(JSON.stringify(layout))),
        frame('A', numbers(512, [0.5, -0.25, 1.5, 0.125], 2)),
        frame('M', numbers(512, [0.25, -6, -9, 3, 1.5, NaN, NaN, NaN, NaN, -Infinity, -Infinity, 0, 0, 0.0625])),
        frame('N', text.encode('{"kind":"fault","channel":"a","position":7}')),
        frame('?', new Uint8Array(3)),
        frame('E', new Uint8Array(0)),
    ];
    const all = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
    let at = 0;
    for (const part of parts) {
        all.set(part, at);
        at += part.length;
    }
    return all;
}

function received(pieces: Uint8Array[]) {
    const got = {
        layouts: [] as Layout[],
        audio: [] as AudioFrame[],
        meters: [] as MeterFrame[],
        notices: [] as Notice[],
        ends: 0,
    };
    const parser = new FrameParser({
        layout: (layout) => got.layouts.push(layout),
        audio: (audio) => got.audio.push(audio),
        meters: (meters) => got.meters.push(meters),
        notice: (notice) => got.notices.push(notice),
        end: () => got.ends++,
    });
    pieces.forEach((piece) => parser.take(piece));
    return got;
}

describe('FrameParser', () => {
    it('hands on the same frames however the bytes arrive', () => {
        const bytes = stream();
        for (const size of [1, 3, 7, 64, bytes.length]) {
            const pieces: Uint8Array[] = [];
            for (let at = 0; at < bytes.length; at += size) {
                pieces.push(bytes.slice(at, at + size));
            }
            const got = received(pieces);
            expect(got.layouts[0]?.change).toBe(4);
            expect([...(got.audio[0]?.left ?? [])]).toEqual([0.5, -0.25]);
            expect([...(got.audio[0]?.right ?? [])]).toEqual([1.5, 0.125]);
            expect(got.audio[0]?.position).toBe(512);
            expect(got.meters[0]?.taps['a:source']).toEqual({ peak: -6, rms: -9, overs: 3, reduction: 1.5 });
            expect(got.meters[0]?.taps).not.toHaveProperty('b:source');
            expect(got.meters[0]?.taps['a:post-fader']?.peak).toBe(-Infinity);
            expect(got.meters[0]?.loads).toEqual({ a: 0.0625 });
            expect(got.notices).toEqual([{ kind: 'fault', channel: 'a', position: 7 }]);
            expect(got.ends).toBe(1);
        }
    });

    it('refuses what is no listening stream', () => {
        expect(() => received([new TextEncoder().encode('<!DOCTYPE html>')])).toThrow('not a listening stream');
    });
});
