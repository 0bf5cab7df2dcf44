<?php

declare(strict_types=1);

use Hafen\Edit\EditRefused;
use Hafen\Headroom\BandListen;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

// Source: scipy.signal.iirpeak, a second-order band-pass of the same frequency and Q.
it('lets one band of an equaliser through, where its bell works', function (float $frequency, float $q): void {
    $session = Mix::session([Mix::track('voice', [new ProcessorInsert('i1', 'parametric-eq', parameters: ['bell-3-frequency' => $frequency, 'bell-3-q' => $q, 'bell-3-gain' => 6.0])])]);
    $row = (new BandListen('i1', 'bell-3'))->heardIn($session, ProcessorCatalogue::standard())->channel('voice')?->inserts ?? [];
    expect(array_map(static fn ($insert): string => $insert->processor, $row))->toBe(['parametric-eq', 'sweep-filter']);
    $out = Signal::through(Signal::processor('sweep-filter', $row[1]->parameters), Signal::impulse(16384))->left;
    [$ours, $theirs] = Reference::python('f = data["f"]*np.array([0.25, 0.7, 1, 1.3, 3]); b, a = sig.iirpeak(data["f"], data["q"], fs=48000); print(json.dumps([(20*np.log10(np.abs(sig.freqz(x, y, f, fs=48000)[1]))).tolist() for x, y in ((data["x"], 1), (b, a))]))', ['x' => $out, 'f' => $frequency, 'q' => $q]);
    foreach ($ours as $i => $level) {
        expect($level)->toEqualWithDelta($theirs[$i], 0.1);
    }
})->with([[1000.0, 2.0], [300.0, 8.0]]);

// Source: scipy.signal.butter; a shelf of Q 0.7071 works on one side of its corner, as a Butterworth filter of second order has it.
it('lets the side of a shelf through', function (string $band, string $type): void {
    $session = Mix::session([Mix::track('voice', [new ProcessorInsert('i1', 'parametric-eq', parameters: ["{$band}-frequency" => 800.0, "{$band}-q" => M_SQRT1_2])])]);
    $row = (new BandListen('i1', $band))->heardIn($session, ProcessorCatalogue::standard())->channel('voice')?->inserts ?? [];
    $out = Signal::through(Signal::processor('sweep-filter', $row[1]->parameters), Signal::impulse(16384))->left;
    [$ours, $theirs] = Reference::python('f = np.array([100.0, 400, 800, 1600, 6000]); b, a = sig.butter(2, 800, data["type"], fs=48000); print(json.dumps([(20*np.log10(np.abs(sig.freqz(x, y, f, fs=48000)[1]))).tolist() for x, y in ((data["x"], 1), (b, a))]))', ['x' => $out, 'type' => $type]);
    foreach ($ours as $i => $level) {
        expect($level)->toEqualWithDelta($theirs[$i], 0.1);
    }
})->with([['low-shelf', 'lowpass'], ['high-shelf', 'highpass']]);

it('refuses a band that is not there', function (string $insert, string $band): void {
    $session = Mix::session([Mix::track('voice', [new ProcessorInsert('i1', 'parametric-eq')])]);
    expect(fn () => (new BandListen($insert, $band))->heardIn($session, ProcessorCatalogue::standard()))->toThrow(EditRefused::class);
})->with([['i9', 'bell-3'], ['i1', 'bell-9'], ['i1', 'high-pass']]);
