/** The numbers of a port or a pair, as "in:1" or "hw:3-4" has them; none where there is none. */
export function portNumbers(ports: string | null | undefined): number[] {
    return ports?.match(/\d+/g)?.map(Number) ?? [];
}
