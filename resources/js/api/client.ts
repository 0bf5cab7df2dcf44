import { workWaits } from '@/stores/work';

/** The server said no: where, and what to do. */
export class Refused extends Error {
    constructor(
        readonly status: number,
        readonly location: string,
        message: string,
        /** Ids of frozen channels that stand in the way. */
        readonly unfreeze: string[] = [],
        /** Channels a unit of outboard would be on at the same time, the one it is on first. */
        readonly taken: string[] = [],
    ) {
        super(message);
    }

    /** Whether the server is not there just now: it is started again within a second. */
    get isAway(): boolean {
        return this.status === 0 || (this.status === 503 && this.location === 'server');
    }
}

/** Times something that changes nothing is asked again while the server is away, and milliseconds in between. */
const TRIES = 4;
const PAUSE = 500;

/** Characters browsers send on behalf of a page that is closed, with some to spare. */
const MOST_KEPT = 4_000;

async function once<T>(method: string, path: string, body?: unknown): Promise<T> {
    let response: Response;
    const sent = body === undefined || body instanceof Blob ? body : JSON.stringify(body);
    try {
        response = await fetch(`/api/${path}`, {
            method,
            // The header no other page can send here unasked.
            headers: { Accept: 'application/json', 'Content-Type': 'application/json', 'X-Hafen': '1' },
            body: sent,
            // What is done last on a page arrives though the page is closed.
            keepalive: method !== 'GET' && typeof sent === 'string' && sent.length < MOST_KEPT,
        });
    } catch {
        throw new Refused(0, 'server', 'Hafen does not answer. Is it still running?');
    }
    workWaits.value = response.headers.get('X-Hafen-Work-Waits');
    if (!response.ok) {
        const answer = (await response.json().catch(() => ({}))) as {
            location?: string;
            message?: string;
            unfreeze?: string[];
            taken?: { loop: string; channels: string[] };
        };
        throw new Refused(
            response.status,
            answer.location ?? '',
            answer.message || `The server answered with status ${response.status}.`,
            answer.unfreeze,
            answer.taken?.channels,
        );
    }
    if (response.status === 204) {
        return undefined as T;
    }
    try {
        return (await response.json()) as T;
    } catch {
        throw new Refused(0, 'server', 'The answer of Hafen was cut off: it had to start again. Try once more.');
    }
}

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
    for (let attempt = 1; ; attempt++) {
        try {
            return await once<T>(method, path, body);
        } catch (error) {
            if (method !== 'GET' || !(error instanceof Refused && error.isAway) || attempt === TRIES) {
                throw error;
            }
            await new Promise((resolve) => setTimeout(resolve, PAUSE));
        }
    }
}

export const api = {
    get: <T>(path: string) => call<T>('GET', path),
    post: <T>(path: string, body: unknown = {}) => call<T>('POST', path, body),
    put: <T>(path: string, body: unknown) => call<T>('PUT', path, body),
    delete: <T = void>(path: string) => call<T>('DELETE', path),
};
