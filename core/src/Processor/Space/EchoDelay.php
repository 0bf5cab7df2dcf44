<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Lfo;
use Hafen\Dsp\Saturation\RationalTanh;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\NoteValue;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * Repeats in milliseconds or note values, side by side or from side to side, duller and thinner with each turn.
 *
 * The filters in the loop are first order. As a tape it wavers in time, by up to 2 ms at 0.7 Hz and 0.15 ms at 6.1 Hz, and bends what goes
 * round by a rational tanh (see {@see RationalTanh}); the wavering follows the place in the session.
 * Source: arithmetic for the times; the tape's figures are our own, from memory. A changed time glides, so a moving echo bends its pitch.
 */
final class EchoDelay implements Positioned, Processor
{
    use NoLatency;

    private const LONGEST_MILLISECONDS = 4000.0;

    /** @var list<float> ring of the left loop */
    private array $left;

    /** @var list<float> */
    private array $right;

    private int $write = 0;

    private readonly int $room;

    private float $delay = -1.0;

    private float $wantedDelay = 0.0;

    private float $feedback = 0.0;

    private bool $pingPong = false;

    private float $damping = 1.0;

    private float $cut = 0.0;

    private float $wow = 0.0;

    private float $saturation = 0.0;

    private readonly Lfo $lfo;

    /** @var array{float, float, float, float} low-pass left and right, high-pass left and right */
    private array $filters = [0.0, 0.0, 0.0, 0.0];

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'echo',
            'Echo',
            'Echo', 'Space',
            'Repeats, in milliseconds or in time with the tempo.',
            [
                ParameterSpec::choice('unit', 'Time in', ['note' => 'Note value', 'ms' => 'Milliseconds'], 'note'),
                NoteValue::parameter('1/8.'),
                ParameterSpec::number('time', 'Time', 'ms', 1.0, 2000.0, 350.0, Scale::Logarithmic, 1.0),
                ParameterSpec::number('feedback', 'Feedback', '%', 0.0, 95.0, 35.0, step: 1.0),
                ParameterSpec::toggle('ping-pong', 'Ping-pong', false),
                ParameterSpec::frequency('damping', 'Damping', 6000.0, 500.0),
                ParameterSpec::frequency('low-cut', 'Low cut', 120.0, 20.0, 2000.0),
                ParameterSpec::number('wow', 'Wow', '%', 0.0, 100.0, 0.0, step: 1.0, group: 'Tape'),
                ParameterSpec::number('saturation', 'Saturation', '%', 0.0, 100.0, 0.0, step: 1.0, group: 'Tape'),
            ],
            wetOnly: true,
            widens: true,
            synonyms: ['delay', 'repeat', 'slap', 'ping-pong', 'tape'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Echo '.($values->choice('unit') === 'note' ? $values->choice('note') : round($values->number('time')).' ms');
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Echo', $values->choice('unit') === 'note' ? $values->choice('note') : round($values->number('time')).' ms');
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $time = self::milliseconds($values, $setting->tempo);
        $feedback = $values->number('feedback') / 100.0;
        $span = max(500.0, min(8000.0, $time * 8));
        $curves = [];
        for ($repeat = 1; $repeat * $time <= $span && $repeat <= 40; ++$repeat) {
            $level = Decibel::fromGain($feedback ** ($repeat - 1));
            if ($level === null || $level < -60.0) {
                break;
            }
            $curves[] = ['label' => "repeat {$repeat}", 'points' => [[round($repeat * $time, 1), -60.0], [round($repeat * $time, 1), round($level, 2)]]];
        }

        return new Picture(
            'Repeats',
            new Axis('ms', 0.0, round($span), Scale::Linear),
            new Axis('dB', -60.0, 0.0, Scale::Linear),
            $curves,
        );
    }

    /** Time of one repeat. */
    public static function milliseconds(ParameterValues $values, float $tempo): float
    {
        return $values->choice('unit') === 'note'
            ? min(self::LONGEST_MILLISECONDS, NoteValue::milliseconds($values->choice('note'), $tempo))
            : $values->number('time');
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->lfo = new Lfo;
        $this->lfo->rate(0.7, $setting->sampleRate);
        $this->room = (int) ceil(self::LONGEST_MILLISECONDS * $setting->sampleRate / 1000.0) + 4 + intdiv($setting->sampleRate, 200);
        $this->left = $this->right = array_fill(0, $this->room, 0.0);
    }

    public function set(ParameterValues $values): void
    {
        $this->wantedDelay = max(1.0, self::milliseconds($values, $this->setting->tempo) * $this->setting->sampleRate / 1000.0);
        if ($this->delay < 0.0) {
            $this->delay = $this->wantedDelay;
        }
        $this->feedback = $values->number('feedback') / 100.0;
        $this->pingPong = $values->on('ping-pong');
        $this->wow = $values->number('wow') / 100.0;
        $this->saturation = $values->number('saturation') / 100.0;
        $this->damping = 1.0 - exp(-2.0 * M_PI * $values->number('damping') / $this->setting->sampleRate);
        $this->cut = 1.0 - exp(-2.0 * M_PI * $values->number('low-cut') / $this->setting->sampleRate);
    }

    public function at(int $position): void
    {
        $this->lfo->at($position);
    }

    public function process(Block $block): void
    {
        $block->widen();
        $waver = $this->waver($block->frames());
        $saturation = $this->saturation;
        $inLeft = $block->left;
        $inRight = $block->right;
        $block->left = $block->right = [];
        $left = $this->left;
        $right = $this->right;
        $this->left = $this->right = [];
        $write = $this->write;
        $room = $this->room;
        $delay = $this->delay;
        $wanted = $this->wantedDelay;
        // A glide of about 50 ms, never so fast that time would run backwards.
        $glide = 1.0 - exp(-20.0 / $this->setting->sampleRate);
        $feedback = $this->feedback;
        $pingPong = $this->pingPong;
        $damping = $this->damping;
        $cut = $this->cut;
        [$lowLeft, $lowRight, $highLeft, $highRight] = $this->filters;
        for ($i = 0, $n = count($inLeft); $i < $n; ++$i) {
            if ($delay !== $wanted) {
                $move = ($wanted - $delay) * $glide;
                $move = $move > 0.5 ? 0.5 : ($move < -0.5 ? -0.5 : $move);
                $delay = abs($wanted - $delay) < 0.01 ? $wanted : $delay + $move;
            }
            $now = $delay + $waver[$i];
            $whole = (int) $now;
            $part = $now - $whole;
            $a = $write - $whole;
            if ($a < 0) {
                $a += $room;
            }
            $b = $a === 0 ? $room - 1 : $a - 1;
            $wetLeft = $left[$a] + $part * ($left[$b] - $left[$a]);
            $wetRight = $right[$a] + $part * ($right[$b] - $right[$a]);
            $lowLeft += $damping * ($wetLeft - $lowLeft) + 1e-280 - 1e-280;
            $lowRight += $damping * ($wetRight - $lowRight) + 1e-280 - 1e-280;
            $highLeft += $cut * ($lowLeft - $highLeft) + 1e-280 - 1e-280;
            $highRight += $cut * ($lowRight - $highRight) + 1e-280 - 1e-280;
            $backLeft = $feedback * ($lowLeft - $highLeft);
            $backRight = $feedback * ($lowRight - $highRight);
            if ($saturation > 0.0) {
                $l = $backLeft > 3.0 ? 3.0 : ($backLeft < -3.0 ? -3.0 : $backLeft);
                $r = $backRight > 3.0 ? 3.0 : ($backRight < -3.0 ? -3.0 : $backRight);
                $backLeft += $saturation * ($l * (27.0 + $l * $l) / (27.0 + 9.0 * $l * $l) - $backLeft);
                $backRight += $saturation * ($r * (27.0 + $r * $r) / (27.0 + 9.0 * $r * $r) - $backRight);
            }
            if ($pingPong) {
                $left[$write] = 0.5 * ($inLeft[$i] + $inRight[$i]) + $backRight + 1e-280 - 1e-280;
                $right[$write] = $backLeft;
            } else {
                $left[$write] = $inLeft[$i] + $backLeft + 1e-280 - 1e-280;
                $right[$write] = $inRight[$i] + $backRight + 1e-280 - 1e-280;
            }
            $inLeft[$i] = $wetLeft;
            $inRight[$i] = $wetRight;
            ++$write;
            if ($write === $room) {
                $write = 0;
            }
        }
        $this->left = $left;
        $this->right = $right;
        $this->write = $write;
        $this->delay = $delay;
        $this->filters = [$lowLeft, $lowRight, $highLeft, $highRight];
        $block->left = $inLeft;
        $block->right = $inRight;
    }

    public function reset(): void
    {
        $this->left = $this->right = array_fill(0, $this->room, 0.0);
        $this->filters = [0.0, 0.0, 0.0, 0.0];
        $this->delay = $this->wantedDelay;
        $this->lfo->reset();
    }

    public function tail(): int
    {
        $repeats = $this->feedback < 0.001 ? 1.0 : 1.0 + log(0.001) / log($this->feedback);

        return (int) min($this->wantedDelay * $repeats, 20.0 * $this->setting->sampleRate);
    }

    /**
     * Samples by which the tape is late or early.
     *
     * @return list<float>
     */
    private function waver(int $frames): array
    {
        [$phase, $turn, $since] = $this->lfo->angle();
        $this->lfo->advance($frames);
        if ($this->wow === 0.0) {
            return array_fill(0, $frames, 0.0);
        }
        $slow = 0.002 * $this->wow * $this->setting->sampleRate;
        $quick = 0.00015 * $this->wow * $this->setting->sampleRate;
        $room = $slow + $quick;
        // Where the echo is shorter than the waver, it only gets longer.
        $middle = max(0.0, $room + 1.0 - $this->wantedDelay);
        $waver = [];
        for ($i = 0; $i < $frames; ++$i) {
            $angle = $phase + $turn * ($since + $i);
            $waver[] = $middle + $slow * sin($angle) + $quick * sin(8.7 * $angle);
        }

        return $waver;
    }
}
