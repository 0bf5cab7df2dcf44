<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Send;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** Edits with values at every limit and beyond, ids named twice, names as long as they may be: what nobody sane would ask for. */
final readonly class WildEdits
{
    private const NAMES = ['808', '2026', '12', '0', 'none', 'مرحبا بالعالم', '🎛️🎚️', '-0', '1e5', 'Name" or 1=1 --', '../../etc/passwd', ' '];

    public function __construct(private ProcessorCatalogue $processors)
    {
    }

    /** @return array<string, mixed> */
    public function next(Session $session): array
    {
        if (mt_rand(0, 3) === 0) {
            return $this->mangled(RandomEdits::next($session));
        }
        $channels = array_map(static fn (Channel $channel): string => $channel->id, $session->channels);
        $inserts = array_merge(...array_map(static fn (Channel $channel): array => $channel->allInserts(), $session->channels));
        $sends = array_map(static fn (Send $send): string => $send->id, array_merge(...array_map(static fn (Channel $channel): array => $channel->sends, $session->channels)));
        $channel = static fn (): string => $channels[array_rand($channels)];
        $insert = static fn (): string => $inserts === [] ? 'i1' : $inserts[array_rand($inserts)]->id();
        $send = static fn (): string => $sends === [] ? 'n1' : $sends[array_rand($sends)];
        $processor = static fn (string $id): ?string => ($session->locate($id)?->insert instanceof ProcessorInsert) ? $session->locate($id)->insert->processor : null;
        $target = function () use ($insert, $send, $processor): string {
            $of = $insert();
            $parameters = $processor($of) === null ? [] : $this->processors->spec((string) $processor($of))->parameters;

            return [
                'fader', 'pan', 'mute', "send:{$send()}", "mix:{$of}",
                "parameter:{$of}:".($parameters === [] ? '500' : $parameters[array_rand($parameters)]->id),
            ][mt_rand(0, 5)];
        };
        $many = static fn (callable $one, int $count = 3): array => array_map(static fn () => $one(), range(1, mt_rand(1, $count)));

        return [
            fn () => ['type' => 'add-channel', 'name' => $this->name(), 'kind' => ['track', 'group', 'return', 'cue'][mt_rand(0, 3)]],
            fn () => ['type' => 'add-channel', 'name' => $this->name(), 'file' => $this->file()],
            fn () => ['type' => 'put-file', 'channel' => $channel(), 'file' => $this->file()],
            fn () => ['type' => 'rename-channel', 'channel' => $channel(), 'name' => $this->name()],
            fn () => ['type' => 'rename-session', 'name' => $this->name()],
            fn () => ['type' => 'set-tempo', 'tempo' => self::number(20, 400)],
            fn () => ['type' => 'set-fader', 'channels' => $many($channel), 'gain' => self::gain()],
            fn () => ['type' => 'move-faders', 'channels' => $many($channel), 'by' => self::number(-96, 96)],
            fn () => ['type' => 'set-trim', 'channels' => $many($channel), 'gain' => self::gain()],
            fn () => ['type' => 'move-trims', 'channels' => $many($channel), 'by' => self::number(-96, 96)],
            fn () => ['type' => 'move-clip-gains', 'channels' => $many($channel), 'by' => self::number(-96, 96)],
            fn () => ['type' => 'set-send-gain', 'sends' => $many($send), 'gain' => self::gain()],
            fn () => ['type' => 'move-sends', 'sends' => $many($send), 'by' => self::number(-96, 96)],
            fn () => ['type' => 'set-pan', 'channels' => $many($channel), 'pan' => self::number(-1, 1)],
            fn () => ['type' => 'set-mix', 'insert' => $insert(), 'mix' => self::number(0, 1)],
            fn () => ['type' => 'set-automation', 'channel' => $channel(), 'target' => $target(), 'points' => $many(static fn (): array => ['at' => self::time(), 'value' => self::gain(), 'curve' => self::number(-1, 1)], 5)],
            fn () => ['type' => 'fade', 'channels' => $many($channel), 'direction' => mt_rand(0, 1) === 0 ? 'in' : 'out', 'from' => self::time(), 'to' => self::time()],
            fn () => ['type' => 'add-insert', 'channels' => $many($channel), 'processor' => $this->processors->ids()[array_rand($this->processors->ids())], 'row' => mt_rand(0, 2) === 0 ? 'postInserts' : 'inserts'],
            function () use ($insert, $processor): array {
                $id = $insert();
                $parameters = $processor($id) === null ? [] : $this->processors->spec((string) $processor($id))->parameters;

                return ['type' => 'set-parameters', 'insert' => $id, 'parameters' => (object) ($parameters === [] ? ['500' => 1] : array_merge(...array_map(
                    static fn (ParameterSpec $parameter): array => mt_rand(0, 2) === 0 ? [$parameter->id => self::value($parameter)] : [],
                    $parameters,
                )))];
            },
            fn () => ['type' => 'copy-inserts', 'inserts' => $many($insert, 12), 'channels' => $many($channel, 12)],
            fn () => ['type' => 'copy-sends', 'sends' => $many($send, 6), 'channels' => $many($channel, 6)],
            fn () => ['type' => 'remove-inserts', 'inserts' => $many($insert, 8)],
            fn () => ['type' => 'remove-channels', 'channels' => [$channel()]],
            fn () => ['type' => 'add-split', 'channel' => $channel(), 'by' => ['copies', 'frequency', 'left-right', 'mid-side'][mt_rand(0, 3)], 'branches' => mt_rand(1, 5)],
            fn () => ['type' => 'put-sends', 'sends' => $many(static fn (): array => ['channel' => $channel(), 'to' => $channel(), 'gain' => self::gain(), 'on' => true], 6)],
            fn () => ['type' => 'group-channels', 'channels' => $many($channel), 'name' => $this->name()],
            fn () => ['type' => 'send-to-new-return', 'channels' => $many($channel), 'processor' => 'plate', 'name' => $this->name(), 'gain' => self::gain()],
            fn () => ['type' => 'set-output', 'channels' => $many($channel), 'output' => mt_rand(0, 2) === 0 ? 'hw:7-8' : $channel()],
            fn () => ['type' => 'swap-settings', 'insert' => $insert()],
            fn () => ['type' => 'several', 'label' => $this->name(), 'edits' => $many(fn (): array => $this->next($session), 4)],
        ][mt_rand(0, 29)]();
    }

    /**
     * An edit with one field replaced by something at random.
     *
     * @param  array<string, mixed>  $edit
     * @return array<string, mixed>
     */
    private function mangled(array $edit): array
    {
        if (mt_rand(0, 1) === 0) {
            return $edit;
        }
        $field = array_rand($edit);
        $edit[$field] = match (mt_rand(0, 7)) {
            0 => null,
            1 => self::gain(),
            2 => [],
            3 => $this->name(),
            4 => is_array($edit[$field]) ? [...$edit[$field], ...$edit[$field]] : [$edit[$field]],
            5 => 1 << 53,
            6 => true,
            default => $edit[$field],
        };

        return $edit;
    }

    private function name(): string
    {
        return match (mt_rand(0, 3)) {
            0 => str_repeat('W', 120),
            1 => str_repeat('🎻', mt_rand(100, 121)),
            default => self::NAMES[array_rand(self::NAMES)],
        };
    }

    /** @return array<string, mixed> */
    private function file(): array
    {
        return ['file' => ['cello', '808', 'missing'][mt_rand(0, 2)], 'length' => max(1, self::time()), 'width' => mt_rand(0, 1) === 0 ? 'mono' : 'stereo', 'start' => self::time()];
    }

    private static function time(): int
    {
        return [0, 1, 480, 48000, 1 << 31, (1 << 40) - 1, 1 << 40, (1 << 40) + 1][mt_rand(0, 7)];
    }

    private static function gain(): ?float
    {
        return [null, -120.0, -120.1, -90.0, -60.0, -0.001, 0.0, 0.5, 12.0, 12.5, 23.999, 24.0, 24.001, 96.0][mt_rand(0, 13)];
    }

    private static function number(float $least, float $most): float
    {
        return [$least, $most, ($least + $most) / 2, $least - 0.001, $most + 0.001, $least + ($most - $least) * mt_rand() / mt_getrandmax(), 0.0, 0.5, -0.5][mt_rand(0, 8)];
    }

    private static function value(ParameterSpec $parameter): mixed
    {
        return match ($parameter->kind) {
            ParameterKind::Number => self::number($parameter->min, $parameter->max),
            ParameterKind::Choice => array_rand($parameter->choices),
            ParameterKind::Toggle => mt_rand(0, 1) === 1,
            ParameterKind::AudioFile => ['', '808', 'missing'][mt_rand(0, 2)],
        };
    }
}
