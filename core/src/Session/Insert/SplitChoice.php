<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/** A way to split a row that a person is offered by name. */
final readonly class SplitChoice
{
    public function __construct(public string $id, public string $name, public string $purpose, public SplitBy $by, public int $branches)
    {
    }

    /** @return list<self> in the order in which they are offered */
    public static function all(): array
    {
        return [
            new self('two', 'Two branches', 'The same sound twice, each with its own effects.', SplitBy::Copies, 2),
            new self('three', 'Three branches', 'The same sound three times.', SplitBy::Copies, 3),
            new self('bands-2', 'Low and high', 'Two bands that add up flat.', SplitBy::Frequency, 2),
            new self('bands-3', 'Three bands', 'Low, mid and high.', SplitBy::Frequency, 3),
            new self('bands-4', 'Four bands', 'Low, low mid, high mid and high.', SplitBy::Frequency, 4),
            new self('sides', 'Left and right', 'Each side by itself.', SplitBy::LeftRight, 2),
            new self('mid-side', 'Mid and side', 'What both sides share, and what they do not.', SplitBy::MidSide, 2),
        ];
    }
}
