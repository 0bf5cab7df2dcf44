import { ElNotification } from 'element-plus';
import { Refused } from '@/api/client';

/** Tells the person something; stays until closed where it asks for an action. */
export function tell(message: string, kind: 'info' | 'warning' | 'error' = 'info', title = ''): void {
    ElNotification({
        title,
        message,
        type: kind,
        position: 'bottom-left',
        duration: kind === 'info' ? 4000 : 9000,
        offset: 96,
        customClass: 'notice',
    });
}

export function tellRefusal(error: unknown): void {
    if (error instanceof Refused) {
        tell(error.message, 'warning', error.status === 409 ? 'Changed in another window' : '');
        return;
    }
    tell((error as Error).message, 'error');
}
