<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Send;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\SelectorRange;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\TapSource;

/**
 * What a session must sound like, by the plainest means: whole arrays, one sample after the other, following every path back
 * to its clip. It knows nothing of blocks, order, delays or plans, and shares no code with the engine. Of processors it
 * knows only "gain" without polarity, {@see Follower}, and that a synthesiser without notes is silent; all others must be bypassed. It knows no notes,
 * and no automated macros and sound switches.
 *
 * A range of sound is a list of [left, right].
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
            return $this->through($this->at($channel->id, 'source'), $channel->insertsOn ? $channel->inserts : [], $channel);
        }
        $gain = $this->audible[$channel->id] ? 1.0 : 0.0;
        $faders = $this->moved($channel, 'fader', $channel->fader, self::gain(...));
        $open = $this->moved($channel, 'mute', 0.0, static fn (float $mute): float => $mute >= 0.5 ? 0.0 : 1.0);
        $lefts = $this->moved($channel, 'pan', $channel->pan, fn (float $pan): float => $this->pan($channel->width->value, $pan)[0]);
        $rights = $this->moved($channel, 'pan', $channel->pan, fn (float $pan): float => $this->pan($channel->width->value, $pan)[1]);
        $sound = [];
        foreach ($this->at($channel->id, 'pre-fader') as $i => [$left, $right]) {
            $level = $gain * self::between(fn (int $at): float => $faders($at) * ($open($at) + $open($at - 64) + $open($at - 128) + $open($at - 192)) / 4, $i);
            $sound[] = [$left * $level * self::between($lefts, $i), $right * $level * self::between($rights, $i)];
        }

        return $this->through($sound, $channel->insertsOn ? $channel->postInserts : [], $channel);
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
        $performer = $this->session->channel($send->to)?->performer;
        $onTop = $performer === null ? 1.0 : self::gain(in_array($from->id, $performer->tracks, true) ? $performer->me : $performer->band);
        $level = $this->moved($from, "send:{$send->id}", $send->gain, self::gain(...));
        $gain = static fn (int $at): float => $level($at) * $onTop;

        return array_map(
            static fn (array $pair, int $i): array => [$pair[0] * $left * self::between($gain, $i), $pair[1] * $right * self::between($gain, $i)],
            $sound = $this->at($from->id, $send->tap->value),
            array_keys($sound),
        );
    }

    /**
     * @param  list<array{float, float}>  $sound
     * @param  list<Insert>  $row
     * @return list<array{float, float}>
     */
    private function through(array $sound, array $row, Channel $channel): array
    {
        foreach ($row as $insert) {
            $isSwitched = $this->lane($channel, "on:{$insert->id()}");
            $switch = $this->moved($channel, "on:{$insert->id()}", (float) $insert->isOn(), static fn (float $on): float => $on);
            $on = static fn (int $at): float => ($switch($at) + $switch($at - 64) + $switch($at - 128) + $switch($at - 192)) / 4;
            if ($insert instanceof Split && ($insert->on || $isSwitched)) {
                $dry = $sound;
                foreach ($this->split($sound, $insert, $channel) as $i => [$left, $right]) {
                    $share = self::between($on, $i);
                    $sound[$i] = [$dry[$i][0] + $share * ($left - $dry[$i][0]), $dry[$i][1] + $share * ($right - $dry[$i][1])];
                }
            } elseif ($insert instanceof ProcessorInsert && ($insert->on || $isSwitched)) {
                assert(in_array($insert->processor, ['gain', 'follower', 'arpeggio', 'synthesiser'], true));
                $wet = $insert->processor === 'synthesiser' ? 0.0 : self::gain((float) ($insert->parameters['gain'] ?? 0.0));
                $heard = $insert->sidechain === null ? $sound : $this->at($insert->sidechain->channel, $insert->sidechain->tap->value);
                $mix = $this->moved($channel, "mix:{$insert->id}", $insert->mix, static fn (float $mix): float => $mix);
                $share = static fn (int $at): float => $mix($at) * $on($at);
                foreach ($sound as $i => [$left, $right]) {
                    $gain = 1 - self::between($share, $i) * (1 - ($insert->processor !== 'follower' ? $wet : ($heard[$i][0] + $heard[$i][1]) / 2));
                    $sound[$i] = [$left * $gain, $right * $gain];
                }
            }
        }

        return $sound;
    }

    /**
     * @param  list<array{float, float}>  $sound
     * @return list<array{float, float}>
     */
    private function split(array $sound, Split $split, Channel $channel): array
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
            $gain = $branch->invert ? -1 : 1;
            $level = $this->moved($channel, "branch:{$branch->id}", $branch->gain, self::gain(...));
            $open = $this->moved($channel, "selector:{$split->id}", $split->selector->value ?? 0.0, static fn (float $place): float => $split->selector === null ? 1.0 : self::opening($branch->range, $split->selector->fade->value, $place));
            foreach ($part as $i => [$a, $b]) {
                $part[$i] = [$a * self::between($open, $i), $b * self::between($open, $i)];
            }
            [$left, $right] = $this->pan('stereo', $branch->pan);
            $turn = $split->by->value.$index === 'mid-side1' ? -1 : 1;
            $through = self::scaled($this->through($part, $branch->inserts, $channel), $gain * $left, $gain * $right * $turn);
            $sum = self::sum($sum, array_map(static fn (array $pair, int $i): array => [$pair[0] * self::between($level, $i), $pair[1] * self::between($level, $i)], $through, array_keys($through)));
        }

        return $sum;
    }

    /**
     * What a control does at each moment: what its lane says, or what it is set to.
     *
     * @param  callable(?float): float  $effect
     * @return \Closure(int): float
     */
    private function moved(Channel $channel, string $target, ?float $still, callable $effect): \Closure
    {
        foreach ($channel->automation as $lane) {
            if ($lane->target->text() === $target) {
                return static function (int $at) use ($lane, $effect, $target): float {
                    $before = $after = null;
                    foreach ($lane->points as $point) {
                        if ($point->at <= $at) {
                            $before = $point;
                        } else {
                            $after ??= $point;
                        }
                    }
                    if ($before === null || $after === null || $target === 'mute' || str_starts_with($target, 'on:')) {
                        return $effect(($before ?? $after)->value);
                    }
                    $share = ($at - $before->at) / ($after->at - $before->at);
                    if ($before->curve !== 0.0) {
                        $share = (exp(4 * $before->curve * $share) - 1) / (exp(4 * $before->curve) - 1);
                    }
                    if ($target !== 'fader' && ! str_starts_with($target, 'send') && ! str_starts_with($target, 'branch')) {
                        return $effect($before->value + $share * ($after->value - $before->value));
                    }
                    // Along the marks of a fader: evenly in 10^(dB / 45), from -60 to +12.
                    $low = 10 ** (-60 / 45);
                    $mark = static fn (?float $gain): float => max(0.0, $gain === null ? 0.0 : 10 ** ($gain / 45) - $low);
                    $travel = $mark($before->value) + $share * ($mark($after->value) - $mark($before->value));

                    return $effect($travel <= 0.0 ? null : 45 * log10($travel + $low));
                };
            }
        }
        $gain = $effect($still);

        return static fn (int $at): float => $gain;
    }

    private function lane(Channel $channel, string $target): bool
    {
        return array_filter($channel->automation, static fn ($lane): bool => $lane->target->text() === $target) !== [];
    }

    /** How far a selector has a branch open: a fade lies half on each side of its edge. */
    private static function opening(?SelectorRange $range, string $fade, float $place): float
    {
        $law = static fn (float $share): float => $fade === 'linear' ? max(0.0, min(1.0, $share)) : sin(M_PI_2 * max(0.0, min(1.0, $share)));
        $edge = static fn (float $inside, float $width): float => $width > 0.0 ? $law($inside / $width + 0.5) : ($inside >= 0.0 ? 1.0 : 0.0);

        return $range === null ? 1.0 : ($range->from <= 0.0 ? 1.0 : $edge($place - $range->from, $range->fadeFrom)) * ($range->to >= 1.0 ? 1.0 : $edge($range->to - $place - ($range->fadeTo > 0.0 ? 0.0 : 1e-12), $range->fadeTo));
    }

    /** The engine asks every 64 samples and goes straight in between. @param  \Closure(int): float  $gain */
    private static function between(\Closure $gain, int $at): float
    {
        $from = intdiv($at, 64) * 64;

        return $gain($from) + ($at - $from) / 64 * ($gain($from + 64) - $gain($from));
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
