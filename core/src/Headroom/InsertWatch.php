<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Audio\Block;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Refusals\NoSuchInsert;
use Hafen\Engine\Tap;
use Hafen\Metering\BandRange;
use Hafen\Metering\BandRanges;
use Hafen\Metering\BandWeights;
use Hafen\Metering\PowerWindows;
use Hafen\Metering\ThirdOctaves;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Session;
use Hafen\Survey\Section;
use Hafen\Survey\SurveyMap;

/**
 * Between which levels sound moves before and behind an insert: by thirds of an octave, and before an equaliser in each of its bands.
 *
 * It is told of every block and every new state of the session; what a change makes untrue begins anew.
 */
final class InsertWatch
{
    /** Seconds a window lasts at least. */
    private const WINDOW = 0.08;

    /** Windows that are still of what was set before, or on the way, when a setting changes. */
    private const SETTLING = 3;

    private readonly int $size;

    private int $settling = 0;

    private readonly PowerWindows $windowsBefore;

    private readonly PowerWindows $windowsAfter;

    private BandRanges $before;

    private BandRanges $after;

    /** @var array<string, BandRanges> by band of an equaliser */
    private array $bands = [];

    /** @var array<string, EqBand> what they were made for */
    private array $made = [];

    /** @throws EditRefused when there is no such insert */
    public function __construct(private Session $session, public readonly string $insert, private readonly ProcessorCatalogue $processors)
    {
        $this->size = 2 ** (int) ceil(log(self::WINDOW * $session->sampleRate, 2));
        $this->windowsBefore = new PowerWindows($this->size);
        $this->windowsAfter = new PowerWindows($this->size);
        $this->before = $this->thirds();
        $this->after = $this->thirds();
        $this->makeBands();
    }

    /** @return array{Tap, Tap} before and behind the insert */
    public function taps(): array
    {
        $channel = $this->session->locate($this->insert)->channel->id ?? throw NoSuchInsert::withId($this->insert);

        return [new Tap($channel, Tap::beforeStage($this->insert)), Tap::afterInsert($channel, $this->insert)];
    }

    /** @throws EditRefused when the insert is gone */
    public function follow(Session $session): void
    {
        $was = $this->session;
        $this->session = $session;
        $location = $session->locate($this->insert) ?? throw NoSuchInsert::withId($this->insert);
        $old = $was->locate($this->insert);
        $comesInAlike = $old !== null && $this->heard($session->withInsert($location, $old->insert)) === $this->heard($was);
        if (! $comesInAlike) {
            $this->before = $this->thirds();
            $this->made = [];
        }
        if (! $comesInAlike || $location->insert != $old->insert) {
            $this->after = $this->thirds();
            $this->settling = self::SETTLING;
        }
        $this->makeBands();
    }

    public function look(Block $before, Block $after): void
    {
        foreach ($this->windowsBefore->take($before) as [$left, $right]) {
            $this->before->add($left, $right);
            foreach ($this->bands as $band) {
                $band->add($left, $right);
            }
        }
        foreach ($this->windowsAfter->take($after) as [$left, $right]) {
            if ($this->settling > 0) {
                --$this->settling;
            } else {
                $this->after->add($left, $right);
            }
        }
    }

    /** @return list<float> Hz, of {@see before()} and {@see after()} */
    public function frequencies(): array
    {
        return ThirdOctaves::centres($this->session->sampleRate);
    }

    /** @return list<BandRange> */
    public function before(): array
    {
        return array_values($this->before->read());
    }

    /** @return list<BandRange> since the insert was set as it is */
    public function after(): array
    {
        return array_values($this->after->read());
    }

    /** @return array<string, BandRange> by band of an equaliser: what comes in there */
    public function bands(): array
    {
        return array_map(static fn (BandRanges $band): BandRange => $band->read()['band'], $this->bands);
    }

    /** A key of all that can be heard in the row the insert stands in, and of what feeds it. */
    private function heard(Session $session): string
    {
        $location = $session->locate($this->insert) ?? throw NoSuchInsert::withId($this->insert);

        return SurveyMap::of($session, $this->processors)
            ->part($location->channel->id, $location->row === Row::Inserts ? Section::UpToFader : Section::FromFader)->hash;
    }

    private function thirds(): BandRanges
    {
        return new BandRanges(ThirdOctaves::weights($this->session->sampleRate, $this->size), $this->size);
    }

    /** A band that was moved begins anew, the others go on. */
    private function makeBands(): void
    {
        $insert = $this->session->locate($this->insert)?->insert;
        if (! $insert instanceof ProcessorInsert) {
            throw NoSuchInsert::withId($this->insert);
        }
        $spec = $this->processors->spec($insert->processor);
        $rate = $this->session->sampleRate;
        $bands = $made = [];
        foreach (EqBand::all($spec, ParameterValues::of($spec, $insert->parameters)) as $band) {
            $made[$band->id] = $band;
            $bands[$band->id] = $band == ($this->made[$band->id] ?? null)
                ? $this->bands[$band->id]
                : new BandRanges(['band' => BandWeights::through($band->filter($rate), $rate, $rate / $this->size, intdiv($this->size, 2) + 1)], $this->size);
        }
        $this->made = $made;
        $this->bands = $bands;
    }
}
