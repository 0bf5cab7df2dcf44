<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Edit\Json\EditCodec;
use Hafen\Edit\Json\EditRequest;
use Hafen\Edit\Several;
use Hafen\Session\Session;

/** Makes attempts of some remedies, at any amount. */
final readonly class Attempts
{
    /** What feeds one level-dependent insert is changed by compensating another. */
    private const MOST_ROUNDS = 4;

    /** How many of the remedies go by an amount that is not set by hand. */
    private int $free;

    /**
     * @param  non-empty-list<Remedy>  $remedies  in the order they are made
     * @param  array<string, float>  $amounts  dB of those that were set by hand, by remedy id
     * @param  ?Compensator  $compensator  where level-dependent inserts are to do what they did
     */
    public function __construct(public Situation $situation, private array $remedies, private array $amounts, private EditCodec $edits, private ?Compensator $compensator)
    {
        $this->free = count(array_filter($remedies, static fn (Remedy $remedy): bool => $remedy->hasAmount() && ! isset($amounts[$remedy->id()])));
    }

    /** Whether there is an amount to look for. */
    public function hasAmount(): bool
    {
        return $this->free > 0;
    }

    /**
     * @param  float  $amount  dB in all, shared by the remedies; does not matter where none goes by one
     * @return ?Attempt null where none of the remedies has anything to do
     */
    public function at(float $amount): ?Attempt
    {
        $session = $this->situation->session;
        $labels = $edits = $facts = [];
        foreach ($this->remedies as $remedy) {
            $share = $this->amounts[$remedy->id()] ?? ($this->free > 0 ? $amount / $this->free : 0.0);
            $proposal = $remedy->propose($this->situation->withSession($session), round($share, 2));
            if ($proposal === null) {
                continue;
            }
            $session = $this->edited($session, $proposal->edits);
            $labels[] = $proposal->label;
            array_push($edits, ...$proposal->edits);
            array_push($facts, ...$proposal->facts);
        }

        return $edits === [] ? null : $this->compensated(new Attempt($session, $labels, $edits, $facts, $this->hasAmount() ? $amount : 0.0));
    }

    private function compensated(Attempt $plain): Attempt
    {
        $attempt = $plain;
        for ($round = 0; $this->compensator !== null && $round < self::MOST_ROUNDS; ++$round) {
            $compensating = $this->compensator->edits($this->situation, $attempt->session);
            if ($compensating === $attempt->compensating) {
                break;
            }
            $attempt = $plain->compensatedBy($compensating, $this->edited($plain->session, $compensating));
        }

        return $attempt;
    }

    /** @param  list<EditRequest>  $edits */
    private function edited(Session $session, array $edits): Session
    {
        return Several::of('Headroom', $edits, $this->edits)->apply($session);
    }
}
