// Runs beside the sound: gathers what the microphone hears, and hands it on in pieces with the frame each begins at.
class Microphone extends AudioWorkletProcessor {
    constructor() {
        super();
        this.piece = new Float32Array(2048);
        this.filled = 0;
        this.began = 0;
    }

    process([[sound]]) {
        for (let i = 0; i < (sound ? sound.length : 0); i++) {
            if (this.filled === 0) {
                this.began = currentFrame + i;
            }
            this.piece[this.filled++] = sound[i];
            if (this.filled === this.piece.length) {
                const samples = this.piece;
                this.piece = new Float32Array(2048);
                this.filled = 0;
                this.port.postMessage({ frame: this.began, samples }, [samples.buffer]);
            }
        }
        return true;
    }
}

registerProcessor('microphone', Microphone);
