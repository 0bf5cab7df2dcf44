/**
 * Soft takeover: a knob of a controller that stands elsewhere than the control it moves does nothing until it comes to where the control
 * stands, or passes it; then the control goes with it, until something else moves the control.
 */
export class Takeover {
    /** Places nearer than this are the same: a step of a controller, and a little. */
    private static readonly NEAR = 1.5 / 127;

    private last: number | null = null;

    private given: number | null = null;

    /**
     * @param place  of the knob, 0 to 1
     * @param stands  where the control stands
     * @returns whether the control goes where the knob is
     */
    takes(place: number, stands: number): boolean {
        const held = this.given !== null && Math.abs(stands - this.given) < Takeover.NEAR;
        const reached = Math.abs(place - stands) < Takeover.NEAR;
        const passed = this.last !== null && (this.last - stands) * (place - stands) <= 0;
        this.last = place;
        if (held || reached || passed) {
            this.given = place;
            return true;
        }
        this.given = null;
        return false;
    }
}
