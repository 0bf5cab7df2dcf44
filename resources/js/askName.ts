import { ElMessageBox } from 'element-plus';

/** Asks for the name of something; null when the person leaves it. */
export async function askName(title: string, action: string, thing: string, value = ''): Promise<string | null> {
    try {
        const answer = await ElMessageBox.prompt(`Name of the ${thing}`, title, {
            confirmButtonText: action,
            cancelButtonText: 'Cancel',
            inputValue: value,
            inputPattern: /\S/,
            inputErrorMessage: `A ${thing.split(/[ ;]/)[0]} needs a name.`,
        });
        return answer.value.trim();
    } catch {
        return null;
    }
}
