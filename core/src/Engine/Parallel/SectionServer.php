<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Audio\Block;
use Hafen\Audio\SampleLoops;
use Hafen\Engine\Compiler;
use Hafen\Engine\Excerpt;
use Hafen\Engine\Parallel\Message\ChangeSection;
use Hafen\Engine\Parallel\Message\CloseChannels;
use Hafen\Engine\Parallel\Message\HoldKeys;
use Hafen\Engine\Parallel\Message\ListenAt;
use Hafen\Engine\Parallel\Message\MeterOnly;
use Hafen\Engine\Parallel\Message\OpenSection;
use Hafen\Engine\Parallel\Message\ResetSection;
use Hafen\Engine\Parallel\Message\SectionFacts;
use Hafen\Engine\Parallel\Message\SectionRefusal;
use Hafen\Engine\Parallel\Message\WorkBlock;
use Hafen\Engine\Parallel\Message\WorkedBlock;
use Hafen\Engine\PartialSum;
use Hafen\Engine\Piece;
use Hafen\Engine\Section;
use Hafen\Engine\StageTaps;
use Hafen\Engine\Strip;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use LogicException;
use Throwable;

/** Works a section in a process of its own, as another process asks for it. */
final class SectionServer
{
    private ?Section $section = null;

    private bool $metered = false;

    /** @var list<Output> */
    private array $outputs = [];

    private ?SharedBlocks $shared = null;

    /** Answers messages until the other side has ended. */
    public function serve(MessageStream $messages): void
    {
        while (($message = $messages->receive()) !== null) {
            $answer = $this->answered($message);
            if ($answer !== null && ! $messages->send($answer)) {
                return;
            }
        }
    }

    private function answered(object $message): ?object
    {
        try {
            return SampleLoops::run(fn (): ?object => match (true) {
                $message instanceof WorkBlock => $this->work($message),
                $message instanceof OpenSection => $this->open($message),
                $message instanceof ChangeSection => $this->change($message),
                $message instanceof CloseChannels => $this->close($message),
                $message instanceof ListenAt => $this->listen($message),
                $message instanceof MeterOnly => $this->meterOnly($message),
                $message instanceof HoldKeys => $this->hold($message),
                $message instanceof ResetSection => $this->reset(),
                default => throw new LogicException('A process of the engine was asked for '.$message::class.'.'),
            });
        } catch (Refusal $refusal) {
            return new SectionRefusal($refusal->location, $refusal->getMessage());
        } catch (Throwable $failure) {
            return new SectionRefusal('engine', sprintf('%s (%s, line %d)', $failure->getMessage(), basename($failure->getFile()), $failure->getLine()));
        }
    }

    private function open(OpenSection $open): SectionFacts
    {
        $this->metered = $open->metered;
        $this->section = new Section(new Compiler(new ProcessorCatalogue($open->processors), $open->library), $open->session, Excerpt::part($open->part));
        if ($open->fadesIn) {
            foreach ($this->section->plan()->strips as $strip) {
                $strip->startClosed();
                $strip->open();
            }
        }

        return $this->facts();
    }

    private function change(ChangeSection $change): SectionFacts
    {
        $this->section()->change($change->session, Excerpt::part($change->part));

        return $this->facts();
    }

    private function close(CloseChannels $close): null
    {
        $this->section()->close($close->change);

        return null;
    }

    private function listen(ListenAt $listen): null
    {
        $this->outputs = $listen->outputs;
        if ($this->shared?->key !== $listen->memory) {
            $this->shared = SharedBlocks::attach($listen->memory, $listen->blocks, $listen->frames);
        }
        foreach ($this->outputs as $output) {
            if ($output->kind === OutputKind::Passing) {
                $this->section()->plan()->strip($output->channel)?->keep($output->of);
            }
        }
        $this->section()->sleep(array_intersect_key($listen->asleep, $this->section()->plan()->strips));

        return null;
    }

    private function meterOnly(MeterOnly $wish): null
    {
        $this->section()->meterOnly($wish->channels);

        return null;
    }

    private function hold(HoldKeys $keys): null
    {
        $this->section()->hold($keys->held);

        return null;
    }

    private function reset(): null
    {
        $this->section()->reset();

        return null;
    }

    private function work(WorkBlock $work): WorkedBlock
    {
        $section = $this->section();
        $taps = [];
        foreach ($this->outputs as $output) {
            if ($output->kind === OutputKind::Tap) {
                $taps[$output->channel] ??= new StageTaps;
                $taps[$output->channel]->want($output->of);
            }
        }
        $section->process($section->plan()->strips, Piece::whole($work->position, $work->frames), $this->metered, $taps);
        $section->processed($work->frames);
        $forms = '';
        foreach ($this->outputs as $number => $output) {
            $forms .= $this->shared?->write($work->half, $number, $this->block($output, $taps, $work)) ?? "\0";
        }

        return new WorkedBlock(
            $forms,
            $section->isClosing(),
            $section->faults(),
            $work->reads ? $this->packedReadings() : null,
            $work->reads ? pack('e*', ...array_values($section->loads())) : null,
        );
    }

    /** @param  array<array-key, StageTaps>  $taps  by channel id */
    private function block(Output $output, array $taps, WorkBlock $work): ?Block
    {
        $plan = $this->section()->plan();
        $sum = $plan->sums["{$output->channel}:{$output->of}"] ?? null;

        return match ($output->kind) {
            OutputKind::Passing => $plan->strip($output->channel)?->passing($output->of, $work->frames),
            OutputKind::Tap => ($taps[$output->channel] ?? null)?->at($output->of),
            OutputKind::Sum => PartialSum::sum($sum === null ? [] : [$sum], $work->position, $work->frames),
        };
    }

    private function facts(): SectionFacts
    {
        $plan = $this->section()->plan();
        $tails = $plan->tails();

        return new SectionFacts(
            array_map(static fn (Strip $strip): StripFacts => new StripFacts($strip->stages(), $strip->latency(), $tails[$strip->id()] ?? 0, $strip->isFrozen()), $plan->strips),
            $this->section()->tapIds(),
            $this->section()->loadIds(),
            $plan->unplayable,
        );
    }

    private function section(): Section
    {
        return $this->section ?? throw new LogicException('A process of the engine was asked for sound before it was given a session.');
    }

    /** Peak, mean square, overs and gain reduction of all taps in their order; NaN where one is not read. */
    private function packedReadings(): string
    {
        $section = $this->section();
        $readings = $section->readings();
        $numbers = [];
        foreach ($section->tapIds() as $tap) {
            $reading = $readings[$tap] ?? null;
            array_push($numbers, ...($reading === null ? [NAN, NAN, NAN, NAN] : [$reading->peak, $reading->meanSquare, (float) $reading->overs, $reading->gainReduction]));
        }

        return pack('e*', ...$numbers);
    }
}
