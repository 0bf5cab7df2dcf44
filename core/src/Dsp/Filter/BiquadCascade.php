<?php

declare(strict_types=1);

namespace Hafen\Dsp\Filter;

use Hafen\Audio\Block;

/**
 * Second-order sections in series (transposed direct form II), with their state for both sides.
 *
 * Sections are named, so that one keeps its state when others come or go. Up to four sections run in one loop with
 * everything in local variables, on samples that nobody else holds: that is what lets the JIT keep them fast.
 */
final class BiquadCascade
{
    /**
     * State smaller than this becomes 0 after each block, so that none lingers among the denormals (below 2e-308), where the
     * processor is a hundred times slower.
     */
    public const NOTHING = 1e-280;

    /** States of the two sides that differ by less sound the same. */
    public const ALIKE = 1e-15;

    private const SILENT = [0.0, 0.0];

    /** @var list<string> */
    private array $names = [];

    /** @var list<BiquadCoefficients> */
    private array $sections = [];

    /** @var array<string, array{float, float}> */
    private array $leftStates = [];

    /** @var array<string, array{float, float}> */
    private array $rightStates = [];

    /** Both sides were the same until now, so the right one has no state of its own. */
    private bool $wasMono = true;

    /** @param  array<string, BiquadCoefficients>  $sections */
    public function set(array $sections): void
    {
        $this->names = array_map(strval(...), array_keys($sections));
        $this->sections = array_values($sections);
        $this->leftStates = self::kept($this->leftStates, $sections);
        $this->rightStates = self::kept($this->rightStates, $sections);
    }

    public function reset(): void
    {
        $this->leftStates = $this->rightStates = array_fill_keys($this->names, self::SILENT);
        $this->wasMono = true;
    }

    public function process(Block $block): void
    {
        if ($this->sections === []) {
            return;
        }
        if ($this->wasMono && ! $block->mono) {
            $this->rightStates = $this->leftStates;
        } elseif ($block->mono && ! $this->wasMono && ! $this->isAlike()) {
            // What still rings was two sides.
            $block->widen();
        }
        $this->wasMono = $block->mono;
        $this->run($block, $this->leftStates);
        if (! $block->mono) {
            [$block->left, $block->right] = [$block->right, $block->left];
            $this->run($block, $this->rightStates);
            [$block->left, $block->right] = [$block->right, $block->left];
        }
    }

    /** Whether something of the left side is still to come out. */
    public function isRinging(): bool
    {
        foreach ($this->leftStates as [$one, $two]) {
            if (abs($one) > self::ALIKE || abs($two) > self::ALIKE) {
                return true;
            }
        }

        return false;
    }

    /**
     * Filters the left side of a block.
     *
     * @param  array<string, array{float, float}>  $states
     */
    private function run(Block $block, array &$states): void
    {
        $names = $this->names;
        $sections = $this->sections;
        for ($at = 0, $total = count($sections); $at < $total; $at += 4) {
            match ($total - $at) {
                1 => self::one($block, $sections[$at], $states[$names[$at]]),
                2 => self::two($block, $sections[$at], $sections[$at + 1], $states[$names[$at]], $states[$names[$at + 1]]),
                3 => self::three(
                    $block, $sections[$at], $sections[$at + 1], $sections[$at + 2],
                    $states[$names[$at]], $states[$names[$at + 1]], $states[$names[$at + 2]],
                ),
                default => self::four(
                    $block, $sections[$at], $sections[$at + 1], $sections[$at + 2], $sections[$at + 3],
                    $states[$names[$at]], $states[$names[$at + 1]], $states[$names[$at + 2]], $states[$names[$at + 3]],
                ),
            };
        }
    }

    private function isAlike(): bool
    {
        foreach ($this->leftStates as $name => [$one, $two]) {
            if (abs($one - $this->rightStates[$name][0]) > self::ALIKE || abs($two - $this->rightStates[$name][1]) > self::ALIKE) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  array<string, array{float, float}>  $states
     * @param  array<string, BiquadCoefficients>  $sections
     * @return array<string, array{float, float}>
     */
    private static function kept(array $states, array $sections): array
    {
        return array_replace(array_fill_keys(array_keys($sections), self::SILENT), array_intersect_key($states, $sections));
    }

    /** @return array{float, float} */
    private static function flushed(float $one, float $two): array
    {
        return [abs($one) < self::NOTHING ? 0.0 : $one, abs($two) < self::NOTHING ? 0.0 : $two];
    }

    /**
     * @param  array{float, float}  $stateP
     */
    private static function one(Block $block, BiquadCoefficients $p, array &$stateP): void
    {
        [$p1, $p2] = $stateP;
        $pb0 = $p->b0;
        $pb1 = $p->b1;
        $pb2 = $p->b2;
        $pa1 = $p->a1;
        $pa2 = $p->a2;
        $x = $block->left;
        $block->left = [];
        for ($i = 0, $n = count($x); $i < $n; ++$i) {
            $in = $x[$i];
            $out = $pb0 * $in + $p1;
            $p1 = $pb1 * $in - $pa1 * $out + $p2;
            $p2 = $pb2 * $in - $pa2 * $out;
            $x[$i] = $out;
        }
        $block->left = $x;
        $stateP = self::flushed($p1, $p2);
    }

    /**
     * @param  array{float, float}  $stateP
     * @param  array{float, float}  $stateQ
     */
    private static function two(Block $block, BiquadCoefficients $p, BiquadCoefficients $q, array &$stateP, array &$stateQ): void
    {
        [$p1, $p2] = $stateP;
        [$q1, $q2] = $stateQ;
        $pb0 = $p->b0;
        $pb1 = $p->b1;
        $pb2 = $p->b2;
        $pa1 = $p->a1;
        $pa2 = $p->a2;
        $qb0 = $q->b0;
        $qb1 = $q->b1;
        $qb2 = $q->b2;
        $qa1 = $q->a1;
        $qa2 = $q->a2;
        $x = $block->left;
        $block->left = [];
        for ($i = 0, $n = count($x); $i < $n; ++$i) {
            $in = $x[$i];
            $out = $pb0 * $in + $p1;
            $p1 = $pb1 * $in - $pa1 * $out + $p2;
            $p2 = $pb2 * $in - $pa2 * $out;
            $in = $qb0 * $out + $q1;
            $q1 = $qb1 * $out - $qa1 * $in + $q2;
            $q2 = $qb2 * $out - $qa2 * $in;
            $x[$i] = $in;
        }
        $block->left = $x;
        $stateP = self::flushed($p1, $p2);
        $stateQ = self::flushed($q1, $q2);
    }

    /**
     * @param  array{float, float}  $stateP
     * @param  array{float, float}  $stateQ
     * @param  array{float, float}  $stateR
     */
    private static function three(Block $block, BiquadCoefficients $p, BiquadCoefficients $q, BiquadCoefficients $r, array &$stateP, array &$stateQ, array &$stateR): void
    {
        [$p1, $p2] = $stateP;
        [$q1, $q2] = $stateQ;
        [$r1, $r2] = $stateR;
        $pb0 = $p->b0;
        $pb1 = $p->b1;
        $pb2 = $p->b2;
        $pa1 = $p->a1;
        $pa2 = $p->a2;
        $qb0 = $q->b0;
        $qb1 = $q->b1;
        $qb2 = $q->b2;
        $qa1 = $q->a1;
        $qa2 = $q->a2;
        $rb0 = $r->b0;
        $rb1 = $r->b1;
        $rb2 = $r->b2;
        $ra1 = $r->a1;
        $ra2 = $r->a2;
        $x = $block->left;
        $block->left = [];
        for ($i = 0, $n = count($x); $i < $n; ++$i) {
            $in = $x[$i];
            $out = $pb0 * $in + $p1;
            $p1 = $pb1 * $in - $pa1 * $out + $p2;
            $p2 = $pb2 * $in - $pa2 * $out;
            $in = $qb0 * $out + $q1;
            $q1 = $qb1 * $out - $qa1 * $in + $q2;
            $q2 = $qb2 * $out - $qa2 * $in;
            $out = $rb0 * $in + $r1;
            $r1 = $rb1 * $in - $ra1 * $out + $r2;
            $r2 = $rb2 * $in - $ra2 * $out;
            $x[$i] = $out;
        }
        $block->left = $x;
        $stateP = self::flushed($p1, $p2);
        $stateQ = self::flushed($q1, $q2);
        $stateR = self::flushed($r1, $r2);
    }

    /**
     * @param  array{float, float}  $stateP
     * @param  array{float, float}  $stateQ
     * @param  array{float, float}  $stateR
     * @param  array{float, float}  $stateS
     */
    private static function four(
        Block $block,
        BiquadCoefficients $p, BiquadCoefficients $q, BiquadCoefficients $r, BiquadCoefficients $s,
        array &$stateP, array &$stateQ, array &$stateR, array &$stateS,
    ): void {
        [$p1, $p2] = $stateP;
        [$q1, $q2] = $stateQ;
        [$r1, $r2] = $stateR;
        [$s1, $s2] = $stateS;
        $pb0 = $p->b0;
        $pb1 = $p->b1;
        $pb2 = $p->b2;
        $pa1 = $p->a1;
        $pa2 = $p->a2;
        $qb0 = $q->b0;
        $qb1 = $q->b1;
        $qb2 = $q->b2;
        $qa1 = $q->a1;
        $qa2 = $q->a2;
        $rb0 = $r->b0;
        $rb1 = $r->b1;
        $rb2 = $r->b2;
        $ra1 = $r->a1;
        $ra2 = $r->a2;
        $sb0 = $s->b0;
        $sb1 = $s->b1;
        $sb2 = $s->b2;
        $sa1 = $s->a1;
        $sa2 = $s->a2;
        $x = $block->left;
        $block->left = [];
        for ($i = 0, $n = count($x); $i < $n; ++$i) {
            $in = $x[$i];
            $out = $pb0 * $in + $p1;
            $p1 = $pb1 * $in - $pa1 * $out + $p2;
            $p2 = $pb2 * $in - $pa2 * $out;
            $in = $qb0 * $out + $q1;
            $q1 = $qb1 * $out - $qa1 * $in + $q2;
            $q2 = $qb2 * $out - $qa2 * $in;
            $out = $rb0 * $in + $r1;
            $r1 = $rb1 * $in - $ra1 * $out + $r2;
            $r2 = $rb2 * $in - $ra2 * $out;
            $in = $sb0 * $out + $s1;
            $s1 = $sb1 * $out - $sa1 * $in + $s2;
            $s2 = $sb2 * $out - $sa2 * $in;
            $x[$i] = $in;
        }
        $block->left = $x;
        $stateP = self::flushed($p1, $p2);
        $stateQ = self::flushed($q1, $q2);
        $stateR = self::flushed($r1, $r2);
        $stateS = self::flushed($s1, $s2);
    }
}
