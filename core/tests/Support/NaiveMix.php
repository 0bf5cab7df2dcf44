<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Session\Branch;
use Hafen\Session\Channel;
use Hafen\Session\ClipSource;
use Hafen\Session\Insert;
use Hafen\Session\ProcessorInsert;
use Hafen\Session\Send;
use Hafen\Session\Session;
use Hafen\Session\Split;
use Hafen\Session\TapSource;

/**
 * What a session must sound like, by the plainest means: whole arrays, one sample after the other, following every path back
 * to its clip. It knows nothing of blocks, order, delays or plans, and shares no code with the engine. Of processors it
 * knows only "trim" without polarity; all others must be bypassed.
 *
 * A stretch of sound is a list of [left, right].
 */
final class NaiveMix
{
    /** @var array<string, bool> */
    private array $audible = [];

    /** @var array<string, list<array{float, float}>> */
    private array $known = [];

    /** @param  array<string, list<list<float>>>  $files  sides by name */
    public function __construct(private readonly Session $session, private readonly array $files)
    {
        $this->resolveSolo();
    }

    /** @return list<array{float, float}> */
    public function at(string $channel, string $tap): array
    {
        return $this->known["{$channel}:{$tap}"] ??= $this->heard($this->channel($channel), $tap);
    }

    /** @return list<array{float, float}> */
    private function heard(Channel $channel, string $tap): array
    {
        if ($tap === 'source') {
            $gain = self::gain($channel->trim->gain) * ($channel->trim->invert ? -1 : 1);

            return self::scaled($this->entering($channel), $gain, $gain);
        }
        if ($tap === 'pre-fader') {
            return $this->through($this->at($channel->id, 'source'), $channel->insertsOn ? $channel->inserts : []);
        }
        $gain = $this->audible[$channel->id] ? self::gain($channel->fader) : 0.0;
        [$left, $right] = $this->pan($channel->width->value, $channel->pan);

        return $this->through(
            self::scaled($this->at($channel->id, 'pre-fader'), $gain * $left, $gain * $right),
            $channel->insertsOn ? $channel->postInserts : [],
        );
    }

    /** @return list<array{float, float}> */
    private function entering(Channel $channel): array
    {
        $source = $channel->source;
        $sound = $this->silence();
        if ($source instanceof ClipSource) {
            foreach ($source->clips as $clip) {
                $sides = $this->files[$clip->file];
                for ($i = 0; $i < $clip->length && $clip->start + $i < $this->session->length; ++$i) {
                    $sound[$clip->start + $i][0] += ($sides[0][$clip->offset + $i] ?? 0.0) * self::gain($clip->gain);
                    $sound[$clip->start + $i][1] += (($sides[1] ?? $sides[0])[$clip->offset + $i] ?? 0.0) * self::gain($clip->gain);
                }
            }
        } elseif ($source instanceof TapSource) {
            $sound = $this->at($source->channel, $source->tap->value);
        } else {
            foreach ($this->session->channels as $other) {
                if ($other->output === $channel->id) {
                    $sound = self::sum($sound, $this->at($other->id, 'post-fader'));
                }
                foreach ($other->sends as $send) {
                    if ($send->to === $channel->id && $send->on) {
                        $sound = self::sum($sound, $this->sent($other, $send));
                    }
                }
            }
        }
        if ($channel->width->value === 'mono') {
            $sound = array_map(static fn (array $pair): array => [($pair[0] + $pair[1]) / 2, ($pair[0] + $pair[1]) / 2], $sound);
        }

        return $sound;
    }

    /** @return list<array{float, float}> */
    private function sent(Channel $from, Send $send): array
    {
        [$left, $right] = $this->pan($send->tap->value === 'post-fader' ? 'stereo' : $from->width->value, $send->pan);
        $gain = self::gain($send->gain);

        return self::scaled($this->at($from->id, $send->tap->value), $gain * $left, $gain * $right);
    }

    /**
     * @param  list<array{float, float}>  $sound
     * @param  list<Insert>  $row
     * @return list<array{float, float}>
     */
    private function through(array $sound, array $row): array
    {
        foreach ($row as $insert) {
            if ($insert instanceof Split && $insert->on) {
                $sound = $this->split($sound, $insert);
            } elseif ($insert instanceof ProcessorInsert && $insert->on) {
                assert($insert->processor === 'trim');
                $wet = self::gain((float) ($insert->parameters['gain'] ?? 0.0));
                $gain = 1 - $insert->mix + $insert->mix * $wet;
                $sound = self::scaled($sound, $gain, $gain);
            }
        }

        return $sound;
    }

    /**
     * @param  list<array{float, float}>  $sound
     * @return list<array{float, float}>
     */
    private function split(array $sound, Split $split): array
    {
        $solo = array_filter($split->branches, static fn (Branch $branch): bool => $branch->solo) !== [];
        $sum = $this->silence();
        foreach ($split->branches as $index => $branch) {
            if ($branch->mute || ($solo && ! $branch->solo)) {
                continue;
            }
            $part = array_map(static fn (array $pair): array => match ($split->by->value.$index) {
                'left-right0' => [$pair[0], 0.0],
                'left-right1' => [0.0, $pair[1]],
                'mid-side0' => [($pair[0] + $pair[1]) / 2, ($pair[0] + $pair[1]) / 2],
                'mid-side1' => [($pair[0] - $pair[1]) / 2, ($pair[0] - $pair[1]) / 2],
                default => $pair,
            }, $sound);
            $gain = self::gain($branch->gain) * ($branch->invert ? -1 : 1);
            [$left, $right] = $this->pan('stereo', $branch->pan);
            $turn = $split->by->value.$index === 'mid-side1' ? -1 : 1;
            $sum = self::sum($sum, self::scaled($this->through($part, $branch->inserts), $gain * $left, $gain * $right * $turn));
        }

        return $sum;
    }

    /** Sine/cosine law: constant power for a mono channel, a balance for a stereo one. @return array{float, float} */
    private function pan(string $width, float $pan): array
    {
        $angle = ($pan + 1) * M_PI / 4;
        $sides = [cos($angle), sin($angle)];

        return $width === 'mono' ? $sides : array_map(static fn (float $side): float => min(1.0, $side * sqrt(2)), $sides);
    }

    private function resolveSolo(): void
    {
        $soloed = array_filter($this->session->channels, static fn (Channel $channel): bool => $channel->solo && $channel->kind->value !== 'cue');
        $heard = [];
        foreach ($soloed as $channel) {
            $heard[$channel->id] = true;
        }
        // Once up against the sound and once down with it, each to the end, from the soloed ones.
        $up = $down = $heard;
        for ($round = 0; $round < count($this->session->channels); ++$round) {
            foreach ($this->session->channels as $channel) {
                foreach ($this->targets($channel) as [$target, $tapBeforeFader]) {
                    if (isset($up[$target]) && ! $tapBeforeFader) {
                        $up[$channel->id] = true;
                    }
                    if (isset($down[$channel->id])) {
                        $down[$target] = true;
                    }
                }
            }
        }
        foreach ($this->session->channels as $channel) {
            $id = $channel->id;
            $this->audible[$id] = ! $channel->mute && ($soloed === [] || isset($up[$id]) || isset($down[$id]) || $channel->soloSafe || in_array($channel->kind->value, ['main', 'cue'], true));
        }
    }

    /** @return list<array{string, bool}> where its sound goes, and whether it is another's tap that fader and solo do not touch */
    private function targets(Channel $channel): array
    {
        $targets = [[$channel->output, false]];
        foreach ($channel->sends as $send) {
            if ($send->on) {
                $targets[] = [$send->to, false];
            }
        }
        foreach ($this->session->channels as $other) {
            if ($other->source instanceof TapSource && $other->source->channel === $channel->id) {
                $targets[] = [$other->id, $other->source->tap->value !== 'post-fader'];
            }
        }

        return $targets;
    }

    private function channel(string $id): Channel
    {
        foreach ($this->session->channels as $channel) {
            if ($channel->id === $id) {
                return $channel;
            }
        }
        throw new \LogicException($id);
    }

    /** @return list<array{float, float}> */
    private function silence(): array
    {
        return array_fill(0, $this->session->length, [0.0, 0.0]);
    }

    private static function gain(?float $decibels): float
    {
        return $decibels === null ? 0.0 : 10 ** ($decibels / 20);
    }

    /**
     * @param  list<array{float, float}>  $sound
     * @return list<array{float, float}>
     */
    private static function scaled(array $sound, float $left, float $right): array
    {
        return array_map(static fn (array $pair): array => [$pair[0] * $left, $pair[1] * $right], $sound);
    }

    /**
     * @param  list<array{float, float}>  $one
     * @param  list<array{float, float}>  $two
     * @return list<array{float, float}>
     */
    private static function sum(array $one, array $two): array
    {
        return array_map(static fn (array $a, array $b): array => [$a[0] + $b[0], $a[1] + $b[1]], $one, $two);
    }
}
