<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Audio\Decibel;
use Hafen\Audio\SampleFormat;
use Hafen\Engine\Tap;
use Hafen\Printing\Renderer;
use Hafen\Printing\RenderOptions;

/** Renders a session, or one of its taps, to a WAV file. */
final readonly class RenderCommand implements Command
{
    private const MOST_PROCESSES = 64;

    public function name(): string
    {
        return 'render';
    }

    public function usage(): string
    {
        return implode("\n", [
            'render SESSION.json --out FILE.wav [--bits 16|24|32f] [--tap CHANNEL:source|pre-fader|post-fader]',
            '             (also CHANNEL:insert:ID, CHANNEL:into:SPLIT, CHANNEL:branch:ID)',
            '             [--from SAMPLE] [--to SAMPLE] [--tail SECONDS] [--processes N] [--offline-hardware]',
        ]);
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], ['out', 'bits', 'tap', 'from', 'to', 'tail', 'processes']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $out = $arguments->text('out') ?? throw new WrongUsage('render needs --out FILE.wav.');
        $bits = $arguments->text('bits') ?? '24';
        $format = in_array($bits, ['16', '24', '32f'], true) ? SampleFormat::from($bits) : throw new WrongUsage("--bits takes 16, 24 or 32f, not \"{$bits}\".");
        $tap = $arguments->text('tap');
        $options = new RenderOptions(
            $format,
            $tap === null ? null : (Tap::fromString($tap) ?? throw new WrongUsage("--tap takes CHANNEL:source, CHANNEL:pre-fader or CHANNEL:post-fader, not \"{$tap}\".")),
            $arguments->integer('from') ?? 0,
            $arguments->integer('to'),
            $arguments->seconds('tail') ?? 0.0,
        );
        $path = $arguments->position(0);
        $processes = $arguments->integer('processes');
        if ($processes !== null && ($processes < 1 || $processes > self::MOST_PROCESSES)) {
            throw new WrongUsage(sprintf('--processes takes 1 to %d, not %d.', self::MOST_PROCESSES, $processes));
        }
        $session = $terminal->open($path);
        $result = (new Renderer($terminal->compiler($path, $terminal->hardware($session)), $terminal->processes($path, $processes)))->render($session, $out, $options);
        $terminal->say(sprintf('%s: %d samples, peak %s', $out, $result->frames, Decibel::text(Decibel::fromGain($result->peak), 'dBFS', true)));
        if ($result->clipped > 0) {
            $terminal->say("{$result->clipped} samples clipped, the first near sample {$result->firstClip}. --bits 32f keeps them.");
        }
        foreach ($result->unplayable as $channel => $why) {
            $terminal->say("Channel {$channel} is frozen, but was worked live: {$why}");
        }
        foreach ($result->faults as $fault) {
            $terminal->say("Channel {$fault->channel} was silenced from sample {$fault->position}: it put out something that is not a number.");
        }

        return 0;
    }
}
