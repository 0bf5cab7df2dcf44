<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;

/**
 * Repeats in milliseconds or note values, side by side or from side to side, duller and thinner with each turn.
 *
 * A note value lasts 60000/tempo ms for a quarter; dotted is 3/2 of it, triplet 2/3 (arithmetic). The filters in the
 * loop are first order. A changed time glides, so a moving echo bends its pitch.
 */
final class EchoDelay implements Processor
{
    use NoLatency;

    private const NOTES = [
        '1/1' => 4.0, '1/2' => 2.0, '1/2.' => 3.0, '1/2t' => 4.0 / 3.0, '1/4' => 1.0, '1/4.' => 1.5, '1/4t' => 2.0 / 3.0,
        '1/8' => 0.5, '1/8.' => 0.75, '1/8t' => 1.0 / 3.0, '1/16' => 0.25, '1/16.' => 0.375, '1/16t' => 1.0 / 6.0,
    ];

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

    /** @var array{float, float, float, float} low-pass left and right, high-pass left and right */
    private array $filters = [0.0, 0.0, 0.0, 0.0];

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'echo',
            'Echo',
            'Space',
            'Repeats, in milliseconds or in time with the tempo.',
            [
                ParameterSpec::choice('unit', 'Time in', ['note' => 'Note value', 'ms' => 'Milliseconds'], 'note'),
                ParameterSpec::choice('note', 'Note', [
                    '1/1' => 'Whole', '1/2' => 'Half', '1/2.' => 'Half dotted', '1/2t' => 'Half triplet',
                    '1/4' => 'Quarter', '1/4.' => 'Quarter dotted', '1/4t' => 'Quarter triplet',
                    '1/8' => 'Eighth', '1/8.' => 'Eighth dotted', '1/8t' => 'Eighth triplet',
                    '1/16' => 'Sixteenth', '1/16.' => 'Sixteenth dotted', '1/16t' => 'Sixteenth triplet',
                ], '1/8.'),
                ParameterSpec::number('time', 'Time', 'ms', 1.0, 2000.0, 350.0, Scale::Logarithmic, 1.0),
                ParameterSpec::number('feedback', 'Feedback', '%', 0.0, 95.0, 35.0, step: 1.0),
                ParameterSpec::toggle('ping-pong', 'Ping-pong', false),
                ParameterSpec::frequency('damping', 'Damping', 6000.0, 500.0),
                ParameterSpec::frequency('low-cut', 'Low cut', 120.0, 20.0, 2000.0),
            ],
            wetOnly: true,
            widens: true,
            synonyms: ['delay', 'repeat', 'slap', 'ping-pong'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Echo '.($values->choice('unit') === 'note' ? $values->choice('note') : round($values->number('time')).' ms');
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
            ? min(self::LONGEST_MILLISECONDS, self::NOTES[$values->choice('note')] * 60000.0 / $tempo)
            : $values->number('time');
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->room = (int) ceil(self::LONGEST_MILLISECONDS * $setting->sampleRate / 1000.0) + 4;
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
        $this->damping = 1.0 - exp(-2.0 * M_PI * $values->number('damping') / $this->setting->sampleRate);
        $this->cut = 1.0 - exp(-2.0 * M_PI * $values->number('low-cut') / $this->setting->sampleRate);
    }

    public function process(Block $block): void
    {
        $block->widen();
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
            $whole = (int) $delay;
            $part = $delay - $whole;
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
    }

    public function tail(): int
    {
        $repeats = $this->feedback < 0.001 ? 1.0 : 1.0 + log(0.001) / log($this->feedback);

        return (int) min($this->wantedDelay * $repeats, 20.0 * $this->setting->sampleRate);
    }
}
