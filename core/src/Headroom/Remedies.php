<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Headroom\Remedies\CutBoxiness;
use Hafen\Headroom\Remedies\CutLowEnd;
use Hafen\Headroom\Remedies\GroupAndLower;
use Hafen\Headroom\Remedies\LimitLast;
use Hafen\Headroom\Remedies\LowerClips;
use Hafen\Headroom\Remedies\LowerFaders;
use Hafen\Headroom\Remedies\LowerOffender;
use Hafen\Headroom\Remedies\TrimMain;
use Hafen\Headroom\Remedies\TrimSources;

/** All remedies there are, in the order in which they are tried when several are combined: what takes away first. */
final readonly class Remedies
{
    private const LISTED = [
        'trim-sources', 'lower-clips', 'cut-low-end', 'cut-boxiness', 'lower-offender', 'lower-faders', 'group-and-lower', 'trim-main', 'limit-last',
    ];

    /** @param  array<string, Remedy>  $byId */
    private function __construct(public array $byId)
    {
    }

    public static function standard(): self
    {
        $byId = [];
        foreach ([
            new CutLowEnd, new CutBoxiness, new TrimSources, new LowerClips, new LowerOffender, new LowerFaders, new GroupAndLower, new TrimMain, new LimitLast,
        ] as $remedy) {
            $byId[$remedy->id()] = $remedy;
        }

        return new self($byId);
    }

    /**
     * Those that reach nearest to the sources first, as people go through them.
     *
     * @return list<Remedy>
     */
    public function listed(): array
    {
        $byId = array_replace(array_fill_keys(self::LISTED, null), $this->byId);

        return array_values(array_filter($byId));
    }

    /** @return list<string> */
    public function ids(): array
    {
        return array_map(strval(...), array_keys($this->byId));
    }

    /**
     * @param  list<string>  $ids
     * @return list<Remedy> in their order
     */
    public function chosen(array $ids): array
    {
        return array_values(array_filter($this->byId, static fn (Remedy $remedy): bool => in_array($remedy->id(), $ids, true)));
    }
}
