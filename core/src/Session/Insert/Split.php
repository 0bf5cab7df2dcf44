<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Copies;
use Hafen\Session\Source\TapSource;

/**
 * A place in a row where the sound goes several ways at once and comes together again before the next insert.
 *
 * `crossovers` in Hz, rising, one fewer than there are branches: only of a split by frequency. A `selector` chooses between the branches.
 */
final readonly class Split implements Insert
{
    use Copies;

    /**
     * @param  non-empty-list<Branch>  $branches
     * @param  list<float>  $crossovers
     */
    public function __construct(
        public string $id,
        public array $branches,
        public bool $on = true,
        public SplitBy $by = SplitBy::Copies,
        public array $crossovers = [],
        public ?Selector $selector = null,
    ) {
    }

    public function id(): string
    {
        return $this->id;
    }

    public function isOn(): bool
    {
        return $this->on;
    }

    public function withOn(bool $on): self
    {
        return $this->copy(on: $on);
    }

    public function withId(string $id): self
    {
        return $this->copy(id: $id);
    }

    public function branches(): array
    {
        return $this->branches;
    }

    public function withEachBranch(callable $change): self
    {
        return $this->withBranches(array_map($change, $this->branches));
    }

    public function sidechain(): ?TapSource
    {
        return null;
    }

    /** @param  non-empty-list<Branch>  $branches */
    public function withBranches(array $branches): self
    {
        return $this->copy(branches: $branches);
    }

    /** @param  list<float>  $crossovers */
    public function withCrossovers(array $crossovers): self
    {
        return $this->copy(crossovers: $crossovers);
    }

    public function withSelector(?Selector $selector): self
    {
        return $this->copy(selector: $selector);
    }

    /** The split with the branch of the same id replaced. */
    public function withBranch(Branch $changed): self
    {
        return $this->withBranches(array_map(
            static fn (Branch $branch): Branch => $branch->id === $changed->id ? $changed : $branch,
            $this->branches,
        ));
    }

    /** Whether a branch comes through: not muted, and soloed where any is. */
    public function isHeard(Branch $branch): bool
    {
        $anySolo = array_filter($this->branches, static fn (Branch $other): bool => $other->solo) !== [];

        return ! $branch->mute && ($branch->solo || ! $anySolo);
    }
}
