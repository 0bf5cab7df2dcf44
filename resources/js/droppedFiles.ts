/** What was dropped: files, and those in folders at any depth; the name of the folder where it was one. */
export async function filesOf(data: DataTransfer | null): Promise<{ files: File[]; folder: string }> {
    // Entries have to be taken before anything is waited for.
    const entries = [...(data?.items ?? [])].flatMap((item) => item.webkitGetAsEntry?.() ?? []);
    if (entries.length === 0) {
        return { files: [...(data?.files ?? [])], folder: '' };
    }
    const files = (await Promise.all(entries.map(filesIn))).flat();
    return { files, folder: entries.length === 1 && entries[0]?.isDirectory ? entries[0].name : '' };
}

async function filesIn(entry: FileSystemEntry): Promise<File[]> {
    if (entry.isFile) {
        return [await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))];
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader();
    const found: File[] = [];
    // A reader gives a part of a large folder at a time.
    for (;;) {
        const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
        if (some.length === 0) {
            return found;
        }
        found.push(...(await Promise.all(some.map(filesIn))).flat());
    }
}
