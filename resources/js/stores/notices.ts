import { ref } from 'vue';
import { Refused } from '@/api/client';

export interface Notice {
    id: number;
    message: string;
    kind: 'info' | 'warning' | 'error';
    title: string;
    /** What can be done about it, in one press. */
    action: NoticeAction | null;
}

export interface NoticeAction {
    label: string;
    run: () => void;
}

/** What the person is being told, the newest last; it stands above the listen bar and covers nothing. */
export const notices = ref<Notice[]>([]);

/** Of many at once the newest stay. */
const MOST = 3;
let told = 0;

/** Tells the person something; what asks for an action stays longer. */
export function tell(
    message: string,
    kind: Notice['kind'] = 'info',
    title = '',
    action: NoticeAction | null = null,
): void {
    const id = ++told;
    const others = notices.value.filter((other) => other.message !== message);
    notices.value = [...others, { id, message, kind, title, action }].slice(-MOST);
    window.setTimeout(() => dismiss(id), kind === 'info' ? 5000 : 10000);
}

export function dismiss(id: number): void {
    notices.value = notices.value.filter((notice) => notice.id !== id);
}

export function tellRefusal(error: unknown): void {
    if (error instanceof Refused) {
        tell(error.message, 'warning', error.status === 409 ? 'Changed in another window' : '');
        return;
    }
    tell((error as Error).message, 'error');
}
