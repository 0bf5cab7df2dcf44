<?php

declare(strict_types=1);

use Hafen\Audio\UnreadableAudioFile;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Edit\Json\EditCodec;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;
use Hafen\Tests\Support\WildEdits;

/*
 * Whatever is asked for, an edit is refused or makes a document that can be opened and played. The number of edits, 8,000 unless
 * HAFEN_WILD_EDITS says otherwise, is shared by the seeds below.
 */
it('makes no document that cannot be opened and played', function (int $seed): void {
    mt_srand($seed);
    $processors = ProcessorCatalogue::standard();
    $codec = new SessionCodec($processors);
    $edits = new EditCodec($processors, $codec);
    $wild = new WildEdits($processors);
    $library = new MemoryLibrary(['cello' => [Signal::noise(4800, 3, 0.6)], '808' => [Signal::noise(4800, 4, 0.6)], '12' => [Signal::noise(4800, 5, 0.6)]]);
    $count = intdiv((int) (getenv('HAFEN_WILD_EDITS') ?: 8_000), 8);
    $session = $engine = null;
    $made = 0;
    for ($i = 0; $i < $count; ++$i) {
        if ($session === null || count($session->channels) > 24 || $i % 400 === 0) {
            $session = Mix::session([Mix::track('808', [Mix::insert('i1', 'parametric-eq')]), Mix::track('12'), Mix::track('cello')]);
            $engine = null;
        }
        $json = (string) json_encode($wild->next($session), JSON_PRESERVE_ZERO_FRACTION | JSON_THROW_ON_ERROR);
        try {
            $edit = $edits->decode(JsonNode::parse($json, 1 << 22), $session);
            $touches = $edit->touches($session);
            $after = $edit->apply($session);
            $label = $edit->label($session);
        } catch (Refusal) {
            continue;
        }
        ++$made;
        $document = $codec->encode($after);
        try {
            $opened = $codec->decode($document);
        } catch (Refusal $refusal) {
            throw new RuntimeException("{$json} made a document that cannot be opened: {$refusal->line()}");
        }
        expect($codec->encode($opened))->toBe($document)->and($label)->not->toBe('')
            ->and($touches === [] && $document !== $codec->encode($session))->toBeFalse("{$json} says it touches nothing");
        $session = $opened;
        // The engine goes on with it; now and then it begins anew.
        try {
            $engine = $engine === null || $made % 40 === 0 ? new Engine(new Compiler($processors, $library), $session, 64) : $engine;
            $engine->change($session);
            for ($block = 0; $block < 6; ++$block) {
                $sound = $engine->next();
            }
        } catch (UnreadableAudioFile) {
            $engine = null;

            continue;
        }
        expect(is_finite(array_sum($sound->left)))->toBeTrue($json);
        foreach ([...$engine->tapIds(), ...$engine->loadIds()] as $key) {
            expect($key)->toBeString();
        }
    }
    expect($made)->toBeGreaterThan($count / 10);
})->with(range(1, 8));
