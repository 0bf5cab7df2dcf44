<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Load\ChannelLoad;
use Hafen\Load\LoadMeasure;
use Hafen\Load\SessionLoad;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** Measures what a session, its channels and its inserts take of a core; 100 % is a core that has no time left. */
final readonly class LoadCommand implements Command
{
    /** Seconds of sound where none are given. */
    private const SECONDS = 2.0;

    public function name(): string
    {
        return 'load';
    }

    public function usage(): string
    {
        return 'load SESSION.json [--json] [--seconds SECONDS]    what its channels and inserts take of a core, measured';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], ['seconds'], ['json']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $path = $arguments->position(0);
        $seconds = $arguments->seconds('seconds') ?? self::SECONDS;
        if ($seconds <= 0.0) {
            throw new WrongUsage('--seconds takes more than 0 seconds.');
        }
        $session = $terminal->open($path);
        $load = (new LoadMeasure($terminal->compiler($path, $terminal->hardware($session))))->measure($session, $seconds);
        assert($load !== null);
        if ($arguments->has('json')) {
            $terminal->json(self::facts($session, $load));

            return 0;
        }
        $terminal->say(sprintf('%s: %s of a core', $session->name, self::percent($load->total)));
        $channels = $load->channels;
        uasort($channels, static fn (ChannelLoad $one, ChannelLoad $other): int => $other->total <=> $one->total);
        foreach ($channels as $id => $channel) {
            $terminal->say(sprintf('%8s  %s', self::percent($channel->total), $session->channel((string) $id)->name ?? $id));
            $processors = $channel->processors;
            arsort($processors);
            foreach ($processors as $insert => $share) {
                $terminal->say(sprintf('%18s  %s', self::percent($share), $this->label($terminal, $session, (string) $insert)));
            }
            $terminal->say(sprintf('%18s  reading, sums', self::percent($channel->reading)));
            $terminal->say(sprintf('%18s  gains, meters', self::percent($channel->own())));
        }
        $terminal->say(sprintf('%8s  engine', self::percent($load->engine())));

        return 0;
    }

    private function label(Terminal $terminal, Session $session, string $insert): string
    {
        $found = $session->locate($insert)?->insert;

        return $found instanceof ProcessorInsert ? $terminal->processors->label($found->processor, $found->parameters) : $insert;
    }

    private static function percent(float $load): string
    {
        return sprintf('%.1f %%', 100.0 * $load);
    }

    /** @return array<string, mixed> loads as shares of a core */
    private static function facts(Session $session, SessionLoad $load): array
    {
        return [
            'name' => $session->name,
            'seconds' => $load->seconds,
            'total' => $load->total,
            'engine' => $load->engine(),
            'channels' => array_map(static fn (int|string $id, ChannelLoad $channel): array => [
                'id' => (string) $id,
                'name' => $session->channel((string) $id)?->name,
                'total' => $channel->total,
                'reading' => $channel->reading,
                'own' => $channel->own(),
                'inserts' => (object) $channel->processors,
            ], array_keys($load->channels), $load->channels),
        ];
    }
}
