<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Audio\Block;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\Tap;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;
use Hafen\Session\Source\BusSource;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyResult;
use Hafen\Survey\SurveyStore;
use Hafen\Survey\TimeRange;

/** Small sessions, and what comes out of them. */
final class Mix
{
    /** @param  list<Insert>  $inserts */
    public static function track(string $id, array $inserts = [], Width $width = Width::Mono, int $length = 48000): Channel
    {
        return new Channel($id, ChannelKind::Track, ucfirst($id), $width, new ClipSource([new Clip('k1', $id, 0, 0, $length)]), inserts: $inserts);
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public static function insert(string $id, string $processor, array $parameters = [], float $mix = 1.0, bool $on = true): ProcessorInsert
    {
        return new ProcessorInsert($id, $processor, $on, $mix, $parameters);
    }

    /**
     * @param  list<Insert>  $inserts
     * @param  list<Send>  $sends
     */
    public static function bus(string $id, ChannelKind $kind, array $inserts = [], string $output = 'main', array $sends = []): Channel
    {
        return new Channel(
            $id,
            $kind,
            ucfirst($id),
            Width::Stereo,
            new BusSource,
            inserts: $inserts,
            soloSafe: $kind === ChannelKind::Return,
            output: $kind->endsAtInterface() && $output === 'main' ? 'none' : $output,
            sends: $sends,
        );
    }

    /** @param  list<Branch>  $branches */
    public static function split(string $id, array $branches, SplitBy $by = SplitBy::Copies, float ...$crossovers): Split
    {
        assert($branches !== []);

        return new Split($id, $branches, true, $by, array_values($crossovers));
    }

    /**
     * @param  list<Channel>  $tracks
     * @param  list<Insert>  $onMain
     */
    public static function session(array $tracks, array $onMain = [], int $length = 48000): Session
    {
        return new Session('Test', 48000, 120.0, -3.0, $length, [
            ...$tracks,
            new Channel('main', ChannelKind::Main, 'Main', Width::Stereo, new BusSource, inserts: $onMain, output: 'hw:1-2'),
        ]);
    }

    /** Those there are, and one that tests listen with. */
    public static function processors(): ProcessorCatalogue
    {
        return ProcessorCatalogue::standard()->with(Follower::class);
    }

    public static function survey(Session $session, MemoryLibrary $library, ?SurveyStore $store = null, ?TimeRange $range = null): SurveyResult
    {
        $result = (new SessionSurvey(self::processors(), $library, $store ?? FolderStore::temporary()))->measure($session, $range);
        assert($result !== null);

        return $result;
    }

    public static function engine(Session $session, MemoryLibrary $library, int $blockSize = 512, bool $metered = false): Engine
    {
        return new Engine(new Compiler(self::processors(), $library), $session, $blockSize, $metered);
    }

    /** The sound of a session at a tap. */
    public static function render(Session $session, MemoryLibrary $library, int $blockSize = 512, ?string $tap = null, int $from = 0, ?int $frames = null): Block
    {
        $engine = self::engine($session, $library, $blockSize);
        if ($tap !== null) {
            $engine->listenAt(Tap::fromString($tap) ?? new Tap('main'));
        }
        $engine->start($from, $engine->plan()->tail());

        return self::take($engine, $frames ?? $session->length - $from);
    }

    /** The next frames of an engine. */
    public static function take(Engine $engine, int $frames): Block
    {
        $left = $right = [];
        for ($count = 0; $count < $frames;) {
            $block = $engine->next();
            $count += $block->frames();
            $left[] = $block->left;
            $right[] = $block->right;
        }

        return new Block(array_slice(array_merge(...$left), 0, $frames), array_slice(array_merge(...$right), 0, $frames));
    }

    /** Largest difference between two stretches of sound. */
    public static function difference(Block $one, Block $two): float
    {
        $most = 0.0;
        foreach ([[$one->left, $two->left], [$one->right(), $two->right()]] as [$a, $b]) {
            foreach ($a as $i => $sample) {
                $most = max($most, abs($sample - $b[$i]));
            }
        }

        return $most;
    }
}
