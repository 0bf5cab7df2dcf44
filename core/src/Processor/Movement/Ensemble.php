<?php

declare(strict_types=1);

namespace Hafen\Processor\Movement;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\WaveringTap;
use Hafen\Dsp\Lfo;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\FollowsLfo;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * Up to eight players in unison: copies that each drift in pitch at a pace of their own, spread between the sides.
 *
 * Source: own; the drift of a copy is a slow and a quicker sine of unlike rates (see {@see Vibrato} for cents and milliseconds). Paces
 * and places come from a fixed table, so that every render is the same.
 */
final class Ensemble implements Positioned, Processor
{
    use FollowsLfo;
    use NoLatency;

    private const MOST = 8;

    /** Hz of each player's slow drift, and ms it plays late. */
    private const PLAYERS = [[0.31, 9.0], [0.43, 13.0], [0.37, 16.5], [0.53, 11.0], [0.29, 19.0], [0.47, 14.5], [0.41, 22.0], [0.59, 17.5]];

    private const LONGEST_MILLISECONDS = 60.0;

    private readonly WaveringTap $left;

    private readonly WaveringTap $right;

    private int $voices = 4;

    private float $detune = 0.0;

    private float $spread = 1.0;

    private float $amount = 0.5;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'ensemble',
            'Ensemble',
            'Unison', 'Movement',
            'Several players in unison.',
            [
                ParameterSpec::number('voices', 'Voices', '', 2.0, self::MOST, 4.0, step: 1.0),
                ParameterSpec::number('detune', 'Detune', 'ct', 0.0, 30.0, 9.0, step: 0.5),
                ParameterSpec::number('spread', 'Spread', '%', 0.0, 100.0, 100.0, step: 1.0),
                ParameterSpec::number('amount', 'Amount', '%', 0.0, 100.0, 60.0, step: 1.0),
            ],
            widens: true,
            synonyms: ['unison', 'chorus', 'thicken', 'double', 'voices', 'modulation'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Ensemble '.(int) round($values->number('voices'));
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Unison', ((int) round($values->number('voices'))).' voices');
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $curves = [];
        for ($voice = 0, $voices = (int) round($values->number('voices')); $voice < $voices; ++$voice) {
            $points = [];
            for ($i = 0; $i <= 120; ++$i) {
                $t = $i / 20;
                $rate = 2.0 * M_PI * self::PLAYERS[$voice][0];
                $points[] = [$t, round($values->number('detune') / 1.3 * (cos($rate * $t + 2.4 * $voice) + 0.3 * cos(4.7 * $rate * $t + $voice)), 3)];
            }
            $curves[] = ['label' => 'voice '.($voice + 1), 'points' => $points];
        }

        return new Picture('Pitch of the voices', new Axis('s', 0.0, 6.0, Scale::Linear), new Axis('ct', -30.0, 30.0, Scale::Linear), $curves);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->lfo = new Lfo;
        $room = (int) ceil(self::LONGEST_MILLISECONDS * $setting->sampleRate / 1000.0);
        $this->left = new WaveringTap($room);
        $this->right = new WaveringTap($room);
        $this->lfo->rate(1.0, $setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $this->voices = (int) round($values->number('voices'));
        $this->detune = $values->number('detune') * M_LN2 / 1200.0;
        $this->spread = $values->number('spread') / 100.0;
        $this->amount = $values->number('amount') / 100.0;
    }

    public function process(Block $block): void
    {
        $block->widen();
        $frames = $block->frames();
        $this->left->hear($block->left);
        $this->right->hear($block->right);
        [, $turn, $since] = $this->lfo->angle();
        $this->lfo->advance($frames);
        $dry = 1.0 - 0.5 * $this->amount;
        $wet = $this->amount / sqrt($this->voices);
        $left = Samples::scale($block->left, $dry);
        $right = Samples::scale($block->right, $dry);
        for ($voice = 0; $voice < $this->voices; ++$voice) {
            [$rate, $delay] = self::PLAYERS[$voice];
            $tap = $voice % 2 === 0 ? $this->left : $this->right;
            $copy = $tap->read($this->delays($rate, $delay, 2.4 * $voice, (float) $voice, $turn, $since, $frames));
            $near = $wet * (0.5 + 0.5 * $this->spread);
            $far = $wet * (0.5 - 0.5 * $this->spread);
            $left = Samples::addScaled($left, $copy, $voice % 2 === 0 ? $near : $far);
            $right = Samples::addScaled($right, $copy, $voice % 2 === 0 ? $far : $near);
        }
        $block->left = $left;
        $block->right = $right;
    }

    public function reset(): void
    {
        $this->lfo->reset();
        $this->left->reset();
        $this->right->reset();
    }

    public function tail(): int
    {
        return (int) ceil(self::LONGEST_MILLISECONDS * $this->setting->sampleRate / 1000.0);
    }

    /**
     * @param  float  $turn  radians a sample of a movement of 1 Hz
     * @return list<float>
     */
    private function delays(float $rate, float $delay, float $slowPhase, float $quickPhase, float $turn, int $since, int $frames): array
    {
        // Depths that bend the pitch by the detune in all, three quarters of it slowly.
        $slow = $turn * $rate;
        $quick = 4.7 * $slow;
        $slowDepth = min($this->detune / 1.3 / $slow, 0.02 * $this->setting->sampleRate);
        $quickDepth = 0.3 * $this->detune / 1.3 / $quick;
        $middle = $delay * $this->setting->sampleRate / 1000.0 + $slowDepth + $quickDepth;
        $delays = [];
        for ($i = 0; $i < $frames; ++$i) {
            $now = $since + $i;
            $delays[] = $middle + $slowDepth * sin($slow * $now + $slowPhase) + $quickDepth * sin($quick * $now + $quickPhase);
        }

        return $delays;
    }
}
