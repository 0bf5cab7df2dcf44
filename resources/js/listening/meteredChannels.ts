/** The channels whose levels somebody looks at: only of these every tap is metered while it plays. */
export class MeteredChannels {
    private readonly looks = new Map<symbol, readonly string[] | 'all'>();

    /** @param changed called when others are looked at than before */
    constructor(private readonly changed: () => void) {}

    /** Somebody looks at these from now on, in place of what they looked at before. */
    look(who: symbol, channels: readonly string[] | 'all'): void {
        this.looks.set(who, channels);
        this.changed();
    }

    end(who: symbol): void {
        if (this.looks.delete(who)) {
            this.changed();
        }
    }

    has(channel: string): boolean {
        return [...this.looks.values()].some((channels) => channels === 'all' || channels.includes(channel));
    }

    /** Ids in the order of the alphabet; null where somebody looks at all. */
    ids(): string[] | null {
        const looks = [...this.looks.values()];
        return looks.includes('all') ? null : [...new Set(looks.flat())].sort();
    }
}
