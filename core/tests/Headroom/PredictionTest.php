<?php

declare(strict_types=1);

use Hafen\Audio\Samples;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Aim;
use Hafen\Headroom\AimFigure;
use Hafen\Headroom\Prediction;
use Hafen\Headroom\Predictor;
use Hafen\Headroom\Remedies;
use Hafen\Headroom\Situation;
use Hafen\Metering\LoudnessMeter;
use Hafen\Metering\TruePeakMeter;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;
use Hafen\Survey\FolderStore;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomMix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/**
 * @param  list<string>  $remedies
 * @param  array<string, float>  $amounts
 */
function predicted(Session $session, MemoryLibrary $library, array $remedies, Aim $aim = new Aim, array $amounts = [], bool $compensate = false): ?Prediction
{
    static $stores = [];
    $store = $stores[spl_object_id($library)] ??= [$library, FolderStore::temporary()];
    $processors = ProcessorCatalogue::standard();
    $situation = new Situation($session, $processors, Mix::survey($session, $library, $store[1]), $aim);
    $chosen = Remedies::standard()->chosen($remedies);
    assert($chosen !== []);

    return (new Predictor($processors, $library, $store[1]))->predict($situation, $chosen, $amounts, $compensate);
}

/** @return list<array<string, mixed>> */
function fieldsOf(Prediction $prediction): array
{
    return array_map(static fn (EditRequest $edit): array => $edit->fields, $prediction->edits);
}

/** @return array{float, float, ?float} peak, true peak and loudness of the mix that the edits make, played in one go */
function made(Session $session, MemoryLibrary $library, Prediction $prediction): array
{
    $mix = Mix::render(edited($session, ['type' => 'several', 'label' => 'Headroom', 'edits' => $prediction->edits]), $library);
    $truePeak = new TruePeakMeter;
    $truePeak->measure($mix);
    $loudness = new LoudnessMeter(48000);
    $loudness->measure($mix);

    return [20.0 * log10(max(Samples::peak($mix->left), Samples::peak($mix->right()))), $truePeak->level() ?? -INF, $loudness->read()->integrated];
}

function expectMade(Session $session, MemoryLibrary $library, Prediction $prediction): void
{
    [$peak, $truePeak, $loudness] = made($session, $library, $prediction);
    expect($prediction->verified)->toBeTrue()
        ->and($prediction->after->peak)->toEqualWithDelta($peak, 0.01)
        ->and($prediction->after->truePeak)->toEqualWithDelta($truePeak, 0.01)
        ->and($prediction->after->loudness)->toEqualWithDelta($loudness, 0.01);
}

it('predicts what each remedy makes of a mix', function (int $seed): void {
    [$session, $library] = RandomMix::make($seed);
    $aim = new Aim([AimFigure::Peak, AimFigure::TruePeak, AimFigure::Loudness][$seed % 3], $seed % 3 === 2 ? -20.0 : -6.0);
    $reached = 0;
    foreach (Remedies::standard()->ids() as $id) {
        $prediction = predicted($session, $library, [$id], $aim);
        if ($prediction === null) {
            continue;
        }
        expectMade($session, $library, $prediction);
        $level = $prediction->after->figure($aim->figure);
        if ($prediction->reached) {
            ++$reached;
            expect($level)->toBeLessThan($aim->level + 0.1);
        } else {
            expect($level)->toBeGreaterThan($aim->level);
        }
    }
    expect($reached)->toBeGreaterThan(0);
})->with(range(1, 20));

it('predicts several remedies together as a whole', function (): void {
    [$session, $library] = RandomMix::make(31);
    $prediction = predicted($session, $library, ['trim-main', 'lower-faders', 'cut-boxiness'], amounts: ['trim-main' => 2.0]);
    assert($prediction !== null);
    expectMade($session, $library, $prediction);
    expect($prediction->reached)->toBeTrue()
        ->and(array_column(fieldsOf($prediction), 'by'))->toContain(-2.0)
        ->and(array_column(fieldsOf($prediction), 'type'))->toContain('move-faders', 'move-trims');
});

it('says what a level-dependent insert is fed otherwise, and has it do what it did', function (): void {
    [$session, $library] = [Mix::session([
        Mix::track('drum', [Mix::insert('i1', 'drive', ['drive' => 12.0])], length: 9600)->withSends([new Send('n1', 'room', 0.0, TapPoint::PostFader)]),
        Mix::bus('room', ChannelKind::Return),
    ], length: 9600), new MemoryLibrary(['drum' => [array_map(static fn (int $i): float => 0.9 * sin($i / 20) * exp(-$i / 6000), range(0, 9599))]])];
    $plain = predicted($session, $library, ['trim-sources']);
    $compensated = predicted($session, $library, ['trim-sources'], compensate: true);
    $after = predicted($session, $library, ['lower-faders']);
    assert($plain !== null && $compensated !== null && $after !== null);
    expect($plain->fed)->toHaveCount(1)
        ->and($plain->fed[0]->insert)->toBe('i1')
        ->and($plain->fed[0]->by)->toEqualWithDelta(array_column(fieldsOf($plain), 'by')[0], 0.02)
        ->and($plain->tone)->toBeGreaterThan(-60.0)
        ->and($plain->compensated)->toBe(0)
        ->and($compensated->compensated)->toBe(1)
        ->and($compensated->tone ?? -INF)->toBeLessThan(-60.0)
        ->and($after->fed)->toBe([])
        ->and($after->tone)->toBeNull()
        ->and($after->returns)->toHaveKey('room')
        ->and($after->returns['room'])->toEqualWithDelta(array_column(fieldsOf($after), 'by')[0], 0.02);
    expectMade($session, $library, $compensated);
});

it('takes for the level of an insert that of what it listens to', function (): void {
    $sound = static fn (int $seed): array => Signal::noise(9600, $seed, 0.8);
    $session = Mix::session([
        Mix::track('bass', [Mix::insert('i1', 'compressor', ['threshold' => -30.0])->withSidechain(new Hafen\Session\Source\TapSource('drum', TapPoint::Source))], length: 9600),
        Mix::track('drum', length: 9600),
    ], length: 9600);
    $library = new MemoryLibrary(['bass' => [$sound(1)], 'drum' => [$sound(2)]]);
    // The bass is what is lowered; what its compressor hears stays as it was.
    $loud = edited($session, ['type' => 'set-trim', 'channels' => ['bass'], 'gain' => 18.0]);
    $offender = predicted($loud, $library, ['lower-offender']);
    expect($offender?->fed)->toBe([]);
    $all = predicted($loud, $library, ['trim-sources'], compensate: true);
    assert($all !== null);
    expect(array_map(static fn ($fed): array => [$fed->insert, round($fed->by, 1)], $all->fed))->toBe([['i1', round(array_column(fieldsOf($all), 'by')[0], 1)]])
        ->and($all->compensated)->toBe(1);
    expectMade($loud, $library, $all);
});

it('looks at the rest of the session when another moment becomes the loudest', function (): void {
    // Lowering what is loudest leaves the second loudest, far from it.
    $tone = static fn (int $from, float $height): array => array_map(static fn (int $i): float => $i >= $from && $i < $from + 4000 ? $height * sin($i / 10) : 0.0, range(0, 287999));
    $session = Mix::session([Mix::track('one', length: 288000), Mix::track('two', length: 288000)], length: 288000);
    $library = new MemoryLibrary(['one' => [$tone(9600, 1.1)], 'two' => [$tone(240000, 0.9)]]);
    $prediction = predicted($session, $library, ['lower-offender']);
    assert($prediction !== null);
    expect($prediction->reached)->toBeFalse();
    expectMade($session, $library, $prediction);
    expect($prediction->after->peak)->toEqualWithDelta(20.0 * log10(0.9) - 3.0, 0.1);
});

it('proves an amount that a preview found without another preview', function (): void {
    [$session, $library] = RandomMix::make(5);
    $store = FolderStore::temporary();
    $processors = ProcessorCatalogue::standard();
    $situation = new Situation($session, $processors, Mix::survey($session, $library, $store), new Aim);
    $remedies = Remedies::standard()->chosen(['trim-sources']) ?: throw new LogicException('No such remedy.');
    $predictor = new Predictor($processors, $library, $store);
    $preview = null;
    $predictor->predict($situation, $remedies, preview: static function (Prediction $found) use (&$preview): bool {
        $preview = $found;

        return false;
    });
    assert($preview instanceof Prediction);
    $isAsked = false;
    $proof = $predictor->predict($situation, $remedies, amount: $preview->amount, preview: static function () use (&$isAsked): bool {
        $isAsked = true;

        return false;
    });
    assert($proof !== null);
    expect($isAsked)->toBeFalse()->and($proof->reached)->toBeTrue()->and($proof->amount)->toEqualWithDelta($preview->amount, 0.5);
    expectMade($session, $library, $proof);
});

it('proves a mix at 44.1 kHz, whose recordings are gone meanwhile', function (): void {
    [$mix, $library] = RandomMix::make(8);
    $session = new Session($mix->name, 44100, $mix->tempo, $mix->panLaw, $mix->length, $mix->channels);
    $store = FolderStore::temporary();
    $processors = ProcessorCatalogue::standard();
    $situation = new Situation($session, $processors, Mix::survey($session, $library, $store), new Aim);
    foreach (['lower-faders', 'lower-offender', 'trim-main'] as $id) {
        $remedies = Remedies::standard()->chosen([$id]) ?: throw new LogicException('No such remedy.');
        $kept = (new Predictor($processors, $library, $store))->predict($situation, $remedies);
        $store->shrink(0);
        $again = (new Predictor($processors, $library, $store))->predict($situation, $remedies);
        assert($kept !== null && $again !== null);
        expect($again->edits)->toEqual($kept->edits)
            ->and($again->after->peak)->toEqualWithDelta($kept->after->peak, 1e-9)
            ->and($again->after->loudness)->toEqualWithDelta($kept->after->loudness, 1e-9)
            ->and($again->returns)->toEqualWithDelta($kept->returns, 1e-9);
        $survey = Mix::survey(edited($session, ['type' => 'several', 'label' => 'Headroom', 'edits' => $kept->edits]), $library);
        expect($kept->after->peak)->toEqualWithDelta($survey->peak(), 1e-6)
            ->and($kept->after->truePeak)->toEqualWithDelta($survey->truePeak(), 1e-6)
            ->and($kept->after->loudness)->toEqualWithDelta($survey->loudness()?->integrated, 1e-6);
    }
});

it('predicts remedies where instruments play beside tracks, and where a sound switch is automated', function (string $remedy): void {
    $notes = new Hafen\Session\Source\NoteSource([new Hafen\Note\NoteClip('c1', 0, 7680, [new Hafen\Note\Note(0, 5000, 48, 127), new Hafen\Note\Note(960, 900, 60, 120), new Hafen\Note\Note(1920, 300, 67, 127)])]);
    $keys = new Hafen\Session\Channel\Channel('keys', ChannelKind::Note, 'Keys', Hafen\Session\Channel\Width::Mono, $notes, inserts: [Mix::insert('i1', 'synthesiser', ['level' => 6.0]), Mix::insert('i2', 'gain', ['gain' => -3.0])]);
    $session = Mix::session([$keys, Mix::track('drum', [Mix::insert('i3', 'gain')], length: 96000)->withSends([new Send('n1', 'room', -6.0)]), Mix::bus('room', ChannelKind::Return, [Mix::insert('i4', 'echo')])], length: 96000);
    foreach ([
        ['type' => 'add-sound-switch', 'channel' => 'keys', 'name' => 'Tone', 'sound' => 'Soft'],
        ['type' => 'set-parameter', 'insert' => 'i2', 'parameter' => 'gain', 'value' => 3],
        ['type' => 'add-sound', 'switch' => 'w1', 'name' => 'Loud'],
        ['type' => 'set-automation', 'channel' => 'keys', 'target' => 'sound:w1', 'points' => [['at' => 0, 'value' => 0], ['at' => 40000, 'value' => 1]]],
    ] as $edit) {
        $session = edited($session, $edit);
    }
    $library = new MemoryLibrary(['drum' => [array_map(static fn (int $i): float => 0.8 * sin($i / 9) * exp(-($i % 12000) / 4000), range(0, 95999))]]);
    $prediction = predicted($session, $library, [$remedy]);
    assert($prediction !== null);
    expectMade($session, $library, $prediction);
    // All that plays comes down together.
    $moved = array_merge(...array_map(static fn (array $fields): array => $fields['type'] === 'move-faders' ? $fields['channels'] : [], fieldsOf($prediction)), ...[[]]);
    expect($remedy !== 'lower-faders' || array_diff(['keys', 'drum'], $moved) === [])->toBeTrue();
})->with(['lower-faders', 'trim-main', 'limit-last', 'lower-offender', 'cut-low-end']);
