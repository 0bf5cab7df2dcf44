<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Audio\Decibel;
use Hafen\Audio\SampleFormat;
use Hafen\Engine\Tap;
use Hafen\Printing\Printer;
use Hafen\Printing\PrintOptions;
use Hafen\Printing\PrintResult;
use Hafen\Session\Source\PrintedFrom;

/** Prints channels to a file, one or several added up: dry, through their inserts, through their faders, or through the main. */
final readonly class PrintCommand implements Command
{
    public function name(): string
    {
        return 'print';
    }

    public function usage(): string
    {
        return implode("\n", [
            'print SESSION.json --channel ID[,ID] --tap source|pre-fader|post-fader|main --out FILE.wav [--bits 16|24|32f]',
            '            [--from SAMPLE] [--to SAMPLE] [--tail auto|SECONDS]    --tap main: alone through all behind',
        ]);
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], ['channel', 'tap', 'out', 'bits', 'from', 'to', 'tail']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $out = $arguments->text('out') ?? throw new WrongUsage('print needs --out FILE.wav.');
        $ids = $arguments->list('channel') ?? throw new WrongUsage('print needs --channel ID.');
        $path = $arguments->position(0);
        $session = $terminal->open($path);
        foreach ($ids as $id) {
            $session->channel($id) ?? throw NoSuchChannel::named($id, $session);
        }
        $stage = $arguments->text('tap') ?? Tap::POST_FADER;
        if (! in_array($stage, PrintedFrom::TAPS, true)) {
            throw new WrongUsage("--tap takes source, pre-fader, post-fader or main, not \"{$stage}\".");
        }
        $result = (new Printer($terminal->compiler($path, $terminal->hardware($session, $stage === 'main' ? null : $ids)), $terminal->processors))->channels($session, $ids, $stage, $out, self::options($arguments));
        self::tell($terminal, $out, $result);

        return 0;
    }

    public static function options(Arguments $arguments): PrintOptions
    {
        $bits = $arguments->text('bits') ?? '32f';

        return new PrintOptions(
            $arguments->integer('from') ?? 0,
            $arguments->integer('to'),
            $arguments->tail(),
            in_array($bits, ['16', '24', '32f'], true) ? SampleFormat::from($bits) : throw new WrongUsage("--bits takes 16, 24 or 32f, not \"{$bits}\"."),
        );
    }

    public static function tell(Terminal $terminal, string $out, PrintResult $result): void
    {
        $terminal->say(sprintf('%s: %d samples, %s, peak %s', $out, $result->frames, $result->channels === 1 ? 'mono' : 'stereo', Decibel::text(Decibel::fromGain($result->peak), 'dBFS', true)));
        if ($result->clipped > 0) {
            $terminal->say("{$result->clipped} samples clipped, the first near sample {$result->firstClip}. --bits 32f keeps them.");
        }
        foreach ($result->faults as $fault) {
            $terminal->say("Channel {$fault->channel} was silenced from sample {$fault->position}: it put out something that is not a number.");
        }
    }
}
