<?php

declare(strict_types=1);

use Hafen\Demo\FerryTerminal;
use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Opis\JsonSchema\Validator;

function codec(): SessionCodec
{
    return new SessionCodec(ProcessorCatalogue::standard());
}

/** A small document as an array, to be broken in one place. @return array<string, mixed> */
function document(): array
{
    return json_decode(<<<'JSON'
        {"format":"hafen-session","version":1,"name":"Ferry Terminal","sampleRate":48000,"tempo":96.0,"panLaw":-3.0,"length":1440000,
         "channels":[
          {"id":"accordion","kind":"track","name":"Accordion","width":"stereo",
           "source":{"type":"clips","clips":[{"id":"k1","file":"accordion.wav","start":0,"offset":0,"length":1440000,"gain":0.0}]},
           "trim":{"gain":-6.0,"invert":false},"insertsOn":true,
           "inserts":[{"type":"processor","id":"i1","processor":"parametric-eq","on":true,"mix":1.0,"parameters":{"bell-1-gain":3.0}},
            {"type":"split","id":"s1","on":true,"by":"frequency","crossovers":[400.0],"branches":[
             {"id":"b1","name":"Low","gain":0.0,"pan":0.0,"mute":false,"solo":false,"invert":false,"inserts":[]},
             {"id":"b2","name":"High","gain":-3.0,"inserts":[{"type":"processor","id":"i2","processor":"reverb"}]}]}],
           "fader":-3.0,"pan":0.0,"mute":false,"solo":false,"soloSafe":false,"postInserts":[],
           "sends":[{"id":"n1","to":"plate","gain":-12.0,"tap":"post-fader","on":true,"pan":0.0}],"output":"main","aligned":true,"hidden":false},
          {"id":"main","kind":"main","name":"Main","source":{"type":"bus"},"output":"hw:1-2"},
          {"id":"plate","kind":"return","name":"Plate","output":"main"},
          {"id":"again","kind":"track","name":"Again","source":{"type":"tap","channel":"accordion","tap":"source"},"output":"none"},
          {"id":"cue","kind":"cue","name":"Cue","output":"hw:3-4"},
          {"id":"open","kind":"track","name":"Open"}]}
        JSON, true);
}

function refusalOf(mixed $document): Refusal
{
    try {
        codec()->decode(is_string($document) ? $document : json_encode($document, JSON_PRESERVE_ZERO_FRACTION));
    } catch (Refusal $refusal) {
        return $refusal;
    }
    throw new LogicException('The document was taken.');
}

/** The published schema's word on a document. */
function schemaTakes(mixed $document): bool
{
    static $schema = null;
    $schema ??= json_decode((string) file_get_contents(__DIR__.'/../../../docs/formats/session.schema.json'));

    return (new Validator)->validate(json_decode(json_encode($document, JSON_PRESERVE_ZERO_FRACTION)), $schema)->isValid();
}

it('survives decoding and encoding', function (): void {
    $session = (new FerryTerminal)->session(static fn (string $id): string => "{$id}.wav");
    $json = codec()->encode($session);
    expect(codec()->encode(codec()->decode($json)))->toBe($json)
        ->and(codec()->decode($json))->toEqual($session)
        ->and(schemaTakes(json_decode($json)))->toBeTrue();
});

it('gives what is left out its default', function (): void {
    $session = codec()->decode(json_encode([
        'format' => 'hafen-session', 'version' => 1, 'name' => 'Bare', 'sampleRate' => 44100,
        'channels' => [['id' => 'main', 'kind' => 'main', 'name' => 'Main']],
    ]));
    expect($session->tempo)->toBe(120.0)->and($session->panLaw)->toBe(-3.0)->and($session->length)->toBe(0)->and($session->main()->fader)->toBe(0.0);
});

it('takes null for silence', function (): void {
    $document = document();
    $document['channels'][0]['fader'] = null;
    $document['channels'][0]['trim']['gain'] = null;
    $session = codec()->decode(json_encode($document));
    expect($session->channel('accordion')?->fader)->toBeNull()->and($session->channel('accordion')?->trim->gain)->toBeNull();
});

it('reads a processor by a name it had before', function (): void {
    $document = document();
    $document['channels'][0]['inserts'][0] = ['type' => 'processor', 'id' => 'i1', 'processor' => 'trim', 'parameters' => ['gain' => -3.0]];
    $session = codec()->decode(json_encode($document));
    expect($session->locate('i1')?->insert->processor)->toBe('gain')->and(codec()->encode($session))->not->toContain('"processor":"trim"');
});

dataset('broken', [
    'unknown key' => [['colour' => 'red'], '/colour', 'Unknown key', true],
    'unknown key in a channel' => [['channels' => [0 => ['colour' => 1]]], '/channels/0/colour', 'Unknown key', true],
    'another format' => [['format' => 'other'], '/format', 'hafen-session', true],
    'another version' => [['version' => 2], '/version', 'Found 2', true],
    'a rate too low' => [['sampleRate' => 100], '/sampleRate', 'Found 100; allowed is a whole number from 8000 to 384000', true],
    'a fader out of range' => [['channels' => [0 => ['fader' => 40.0]]], '/channels/0/fader', 'Found 40', true],
    'a fader of the wrong type' => [['channels' => [0 => ['fader' => 'loud']]], '/channels/0/fader', 'Found "loud"; allowed is a gain from -120 to 24 dB, or null for silence', true],
    'pan out of range' => [['channels' => [0 => ['pan' => -1.5]]], '/channels/0/pan', 'from -1 to 1', true],
    'mute as a number' => [['channels' => [0 => ['mute' => 1]]], '/channels/0/mute', 'true or false', true],
    'an id with a slash' => [['channels' => [0 => ['id' => 'a/b']]], '/channels/0/id', 'letters, digits', true],
    'an unknown kind' => [['channels' => [0 => ['kind' => 'vca']]], '/channels/0/kind', '"track"', true],
    'a name with a line break' => [['name' => "a\nb"], '/name', 'control characters', true],
    'mix above 1' => [['channels' => [0 => ['inserts' => [0 => ['mix' => 1.2]]]]], '/channels/0/inserts/0/mix', 'from 0 to 1', true],
    'a clip without length' => [['channels' => [0 => ['source' => ['clips' => [0 => ['length' => 0]]]]]], '/channels/0/source/clips/0/length', 'Found 0', true],
    'two equal ids' => [['channels' => [0 => ['id' => 'main']]], '/channels/1/id', 'stands twice', false],
    'an unknown processor' => [['channels' => [0 => ['inserts' => [0 => ['processor' => 'flux']]]]], '/channels/0/inserts/0/processor', 'parametric-eq', false],
    'an unknown parameter' => [['channels' => [0 => ['inserts' => [0 => ['parameters' => ['warmth' => 1]]]]]], '/channels/0/inserts/0/parameters/warmth', 'no parameter "warmth"', false],
    'a parameter out of range' => [['channels' => [0 => ['inserts' => [0 => ['parameters' => ['bell-1-gain' => 99]]]]]], '/channels/0/inserts/0/parameters/bell-1-gain', 'Found 99; Gain of Parametric EQ must be a number from -24 to 24 dB', false],
    'an output that is not there' => [['channels' => [0 => ['output' => 'attic']]], '/channels/0/output', 'Found "attic"', false],
    'a track on the interface' => [['channels' => [0 => ['output' => 'hw:1-2']]], '/channels/0/output', 'only the main and cues', false],
    'a band too many' => [['channels' => [0 => ['inserts' => [1 => ['crossovers' => [300, 900]]]]]], '/channels/0/inserts/1/crossovers', 'one fewer than there are branches', false],
    'crossovers that fall' => [['channels' => [0 => ['inserts' => [1 => ['crossovers' => [5.0]]]]]], '/channels/0/inserts/1/crossovers/0', 'from 20 to 20000 Hz', true],
    'an unknown way to split' => [['channels' => [0 => ['inserts' => [1 => ['by' => 'colour']]]]], '/channels/0/inserts/1/by', 'mid-side', true],
    'a branch id that stands twice' => [['channels' => [0 => ['inserts' => [1 => ['branches' => [1 => ['id' => 'b1']]]]]]], '/channels/0/inserts/1/branches/1/id', 'stands twice', false],
    'an insert id in a branch that stands twice' => [['channels' => [0 => ['inserts' => [1 => ['branches' => [1 => ['inserts' => [0 => ['id' => 'i1']]]]]]]]], '/channels/0/inserts/1/branches/1/inserts/0/id', 'stands twice', false],
    'a send to nowhere' => [['channels' => [0 => ['sends' => [0 => ['to' => 'attic']]]]], '/channels/0/sends/0/to', 'the id of a return', false],
    'a send to the main' => [['channels' => [0 => ['sends' => [0 => ['to' => 'main']]]]], '/channels/0/sends/0/to', 'the id of a return', false],
    'an unknown tap' => [['channels' => [0 => ['sends' => [0 => ['tap' => 'somewhere']]]]], '/channels/0/sends/0/tap', 'pre-fader', true],
    'a loop' => [['channels' => [2 => ['sends' => [['id' => 'n9', 'to' => 'plate', 'on' => false]]]]], '/channels/2/sends', 'Plate -> Plate', false],
    'an input that is an output' => [['channels' => [5 => ['source' => ['type' => 'input', 'input' => 'hw:1']]]], '/channels/5/source/input', 'an input such as "in:1"', true],
    'a pair that does not follow' => [['channels' => [5 => ['source' => ['type' => 'input', 'input' => 'in:2-4']]]], '/channels/5/source/input', 'a pair such as "in:1-2"', false],
    'a monitor that is none' => [['channels' => [5 => ['source' => ['type' => 'input', 'input' => 'in:1', 'monitor' => 'loud']]]], '/channels/5/source/monitor', '"armed"', true],
    'a tap of nobody' => [['channels' => [3 => ['source' => ['channel' => 'attic']]]], '/channels/3/source/channel', 'the id of a channel', false],
    'a cue that sends' => [['channels' => [4 => ['sends' => [['id' => 'n9', 'to' => 'plate']]]]], '/channels/4/sends', 'A cue has no sends', false],
    'a cue into the main' => [['channels' => [4 => ['output' => 'main']]], '/channels/4/output', 'a cue goes to an interface pair', false],
    'output to a cue' => [['channels' => [0 => ['output' => 'cue']]], '/channels/0/output', 'a group, a return or the main', false],
    'no main' => [['channels' => [1 => ['kind' => 'group', 'output' => 'none']]], '/channels', 'exactly one', false],
]);

it('keeps the input of a track with what was recorded from it', function (): void {
    $document = array_replace_recursive(document(), ['channels' => [0 => ['source' => ['type' => 'input', 'input' => 'in:3-4', 'monitor' => 'always']]]]);
    $codec = new SessionCodec(ProcessorCatalogue::standard());
    $source = $codec->decode(json_encode($document))->channels[0]->source;
    expect($source->input->port)->toBe('in:3-4')->and($source->clips)->not->toBe([])
        ->and($codec->decode($codec->encode($codec->decode(json_encode($document)))))->toEqual($codec->decode(json_encode($document)))
        ->and(schemaTakes($document))->toBeTrue();
});

it('refuses with a JSON pointer, the value and what is allowed', function (array $change, string $pointer, string $says, bool $bySchemaToo): void {
    $document = array_replace_recursive(document(), $change);
    $refusal = refusalOf($document);
    expect($refusal)->toBeInstanceOf(InvalidDocument::class)
        ->and($refusal->location)->toBe($pointer)
        ->and($refusal->getMessage())->toContain($says)
        ->and(schemaTakes($document))->toBe(! $bySchemaToo);
})->with('broken');

it('refuses what is not JSON, too deep or too long', function (string $json): void {
    expect(refusalOf($json)->location)->toBe('/');
})->with(['', '{"format":', 'null', '[]', '"text"', str_repeat('[', 200).str_repeat(']', 200)]);

it('agrees with the schema on hundreds of mutated documents', function (): void {
    mt_srand(7);
    $junk = [null, true, -1, 0, 1.5, 1e12, '', 'x', "\u{1}", [], ['a' => 1], [[]]];
    $both = 0;
    for ($round = 0; $round < 500; ++$round) {
        $document = document();
        $at = &$document;
        for ($depth = mt_rand(1, 7); $depth > 0 && is_array($at) && $at !== []; --$depth) {
            $at = &$at[array_rand($at)];
        }
        $at = $junk[array_rand($junk)];
        unset($at);
        $takes = schemaTakes($document);
        try {
            codec()->decode(json_encode($document, JSON_PRESERVE_ZERO_FRACTION));
            expect($takes)->toBeTrue('the codec took what the schema refuses: '.json_encode($document));
            ++$both;
        } catch (Refusal $refusal) {
            expect($refusal->location)->not->toBe('');
        }
    }
    expect($both)->toBeGreaterThan(20);
});

it('decodes of a second document only what is another there, and refuses what it would refuse by itself', function (): void {
    $codec = new SessionCodec(Hafen\Processor\ProcessorCatalogue::standard());
    $document = static fn (array $channels): string => (string) json_encode(['format' => 'hafen-session', 'version' => 1, 'name' => 'Quay', 'sampleRate' => 48000, 'length' => 48000, 'channels' => [
        ...$channels, ['id' => 'main', 'kind' => 'main', 'name' => 'Main'],
    ]], JSON_PRESERVE_ZERO_FRACTION);
    $clip = ['id' => 'k', 'file' => 'x', 'start' => 0, 'offset' => 0, 'length' => 100];
    $cello = ['id' => 'cello', 'kind' => 'track', 'name' => 'Cello', 'source' => ['type' => 'clips', 'clips' => [$clip]]];
    $viola = ['id' => 'viola', 'kind' => 'track', 'name' => 'Viola'];
    $one = $codec->decode($document([$cello, $viola]));
    $two = $codec->decode($document([['fader' => -3.0] + $viola, $cello]));
    expect($two->channel('cello'))->toBe($one->channel('cello'))
        ->and($two->channel('viola')?->fader)->toBe(-3.0)->and($one->channel('viola')?->fader)->toBe(0.0)
        ->and($two)->toEqual((new SessionCodec(Hafen\Processor\ProcessorCatalogue::standard()))->decode($document([['fader' => -3.0] + $viola, $cello])));
    // What is wrong is named where it stands in this document.
    $cello['source']['clips'][0]['start'] = -1;
    try {
        $codec->decode($document([$viola, $cello]));
        $location = '';
    } catch (InvalidDocument $invalid) {
        $location = $invalid->location;
    }
    expect($location)->toBe('/channels/1/source/clips/0/start');
    // The same channel twice is refused, though each is known.
    expect(static fn () => $codec->decode($document([$viola, $viola])))->toThrow(InvalidDocument::class, 'twice');
});
