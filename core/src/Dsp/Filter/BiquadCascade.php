<?php

declare(strict_types=1);

namespace Hafen\Dsp\Filter;

use Hafen\Audio\Block;

/**
 * Second-order sections in series (transposed direct form II), with their state for both sides.
 *
 * Sections are named, so that one keeps its state when others come or go. Four sections run in one loop with
 * everything in local variables: that is what lets the JIT keep them fast.
 */
final class BiquadCascade
{
    /**
     * Added to every section's output and taken away again: what is smaller than its rounding (about 1e-296) becomes
     * exactly 0, so that no state lingers among the denormals, where the processor is a hundred times slower.
     */
    private const FLUSH = 1e-280;

    /** @var array<string, BiquadCoefficients> */
    private array $sections = [];

    /** @var array<string, array{float, float}> */
    private array $leftStates = [];

    /** @var array<string, array{float, float}> */
    private array $rightStates = [];

    private bool $wasMono = true;

    /** @param  array<string, BiquadCoefficients>  $sections */
    public function set(array $sections): void
    {
        $this->sections = $sections;
        $this->leftStates = array_intersect_key($this->leftStates, $sections);
        $this->rightStates = array_intersect_key($this->rightStates, $sections);
    }

    public function reset(): void
    {
        $this->leftStates = $this->rightStates = [];
    }

    public function process(Block $block): void
    {
        if ($this->sections === []) {
            return;
        }
        $samples = $block->left;
        $block->left = [];
        $before = $this->wasMono && ! $block->mono ? $this->leftStates : null;
        $block->left = $this->run($samples, $this->leftStates);
        if (! $block->mono) {
            if ($before !== null) {
                // Both sides were the same until now.
                $this->rightStates = $before;
            }
            $samples = $block->right;
            $block->right = [];
            $block->right = $this->run($samples, $this->rightStates);
        }
        $this->wasMono = $block->mono;
    }

    /**
     * @param  list<float>  $x
     * @param  array<string, array{float, float}>  $states
     * @return list<float>
     */
    private function run(array $x, array &$states): array
    {
        $names = array_keys($this->sections);
        $n = count($x);
        for ($at = 0, $total = count($names); $at < $total;) {
            if ($total - $at >= 4) {
                [$p, $q, $r, $s] = [$names[$at], $names[$at + 1], $names[$at + 2], $names[$at + 3]];
                [$x, $states[$p], $states[$q], $states[$r], $states[$s]] = self::four(
                    $x, $n, $this->sections[$p], $this->sections[$q], $this->sections[$r], $this->sections[$s],
                    $states[$p] ?? [0.0, 0.0], $states[$q] ?? [0.0, 0.0], $states[$r] ?? [0.0, 0.0], $states[$s] ?? [0.0, 0.0],
                );
                $at += 4;
            } elseif ($total - $at >= 2) {
                [$p, $q] = [$names[$at], $names[$at + 1]];
                [$x, $states[$p], $states[$q]] = self::two(
                    $x, $n, $this->sections[$p], $this->sections[$q], $states[$p] ?? [0.0, 0.0], $states[$q] ?? [0.0, 0.0],
                );
                $at += 2;
            } else {
                $p = $names[$at];
                [$x, $states[$p]] = self::one($x, $n, $this->sections[$p], $states[$p] ?? [0.0, 0.0]);
                ++$at;
            }
        }

        return $x;
    }

    /**
     * @param  list<float>  $x
     * @param  array{float, float}  $state
     * @return array{list<float>, array{float, float}}
     */
    private static function one(array $x, int $n, BiquadCoefficients $section, array $state): array
    {
        [$s1, $s2] = $state;
        $b0 = $section->b0;
        $b1 = $section->b1;
        $b2 = $section->b2;
        $a1 = $section->a1;
        $a2 = $section->a2;
        for ($i = 0; $i < $n; ++$i) {
            $v = $x[$i];
            $y = $b0 * $v + $s1 + self::FLUSH - self::FLUSH;
            $s1 = $b1 * $v - $a1 * $y + $s2;
            $s2 = $b2 * $v - $a2 * $y;
            $x[$i] = $y;
        }

        return [$x, [$s1, $s2]];
    }

    /**
     * @param  list<float>  $x
     * @param  array{float, float}  $stateP
     * @param  array{float, float}  $stateQ
     * @return array{list<float>, array{float, float}, array{float, float}}
     */
    private static function two(array $x, int $n, BiquadCoefficients $p, BiquadCoefficients $q, array $stateP, array $stateQ): array
    {
        [$s1, $s2] = $stateP;
        [$t1, $t2] = $stateQ;
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
        for ($i = 0; $i < $n; ++$i) {
            $v = $x[$i];
            $y = $pb0 * $v + $s1 + self::FLUSH - self::FLUSH;
            $s1 = $pb1 * $v - $pa1 * $y + $s2;
            $s2 = $pb2 * $v - $pa2 * $y;
            $z = $qb0 * $y + $t1 + self::FLUSH - self::FLUSH;
            $t1 = $qb1 * $y - $qa1 * $z + $t2;
            $t2 = $qb2 * $y - $qa2 * $z;
            $x[$i] = $z;
        }

        return [$x, [$s1, $s2], [$t1, $t2]];
    }

    /**
     * @param  list<float>  $x
     * @param  array{float, float}  $stateP
     * @param  array{float, float}  $stateQ
     * @param  array{float, float}  $stateR
     * @param  array{float, float}  $stateS
     * @return array{list<float>, array{float, float}, array{float, float}, array{float, float}, array{float, float}}
     */
    private static function four(
        array $x, int $n,
        BiquadCoefficients $p, BiquadCoefficients $q, BiquadCoefficients $r, BiquadCoefficients $s,
        array $stateP, array $stateQ, array $stateR, array $stateS,
    ): array {
        [$s1, $s2] = $stateP;
        [$t1, $t2] = $stateQ;
        [$u1, $u2] = $stateR;
        [$v1, $v2] = $stateS;
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
        for ($i = 0; $i < $n; ++$i) {
            $w = $x[$i];
            $y = $pb0 * $w + $s1 + self::FLUSH - self::FLUSH;
            $s1 = $pb1 * $w - $pa1 * $y + $s2;
            $s2 = $pb2 * $w - $pa2 * $y;
            $z = $qb0 * $y + $t1 + self::FLUSH - self::FLUSH;
            $t1 = $qb1 * $y - $qa1 * $z + $t2;
            $t2 = $qb2 * $y - $qa2 * $z;
            $y = $rb0 * $z + $u1 + self::FLUSH - self::FLUSH;
            $u1 = $rb1 * $z - $ra1 * $y + $u2;
            $u2 = $rb2 * $z - $ra2 * $y;
            $z = $sb0 * $y + $v1 + self::FLUSH - self::FLUSH;
            $v1 = $sb1 * $y - $sa1 * $z + $v2;
            $v2 = $sb2 * $y - $sa2 * $z;
            $x[$i] = $z;
        }

        return [$x, [$s1, $s2], [$t1, $t2], [$u1, $u2], [$v1, $v2]];
    }
}
