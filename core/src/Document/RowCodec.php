<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\NoteValue;
use Hafen\Session\Insert\NoteZone;
use Hafen\Session\Insert\OtherSetting;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\SelectorFade;
use Hafen\Session\Insert\SelectorNotes;
use Hafen\Session\Insert\SelectorRange;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Source\TapSource;

/** Rows of inserts, with the splits in them, to and from the format. */
final readonly class RowCodec
{
    public const MOST_INSERTS = 128;

    /** Splits in branches of splits. */
    public const DEEPEST = 8;

    public function __construct(private ProcessorCatalogue $processors)
    {
    }

    /**
     * @return list<Insert>
     *
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public function decode(?JsonNode $node, int $depth = 0): array
    {
        return $node === null ? [] : array_map(fn (JsonNode $item): Insert => $this->insert($item, $depth), $node->items(self::MOST_INSERTS));
    }

    /**
     * @param  list<Insert>  $row
     * @return list<array<string, mixed>>
     */
    public function encode(array $row): array
    {
        return array_map($this->insertToArray(...), $row);
    }

    /**
     * Parameters for a processor, each checked against its spec.
     *
     * @return array<string, float|string|bool>
     *
     * @throws InvalidDocument naming the parameter, the value and what is allowed
     */
    public function parameters(JsonNode $node, string $processor): array
    {
        $spec = $this->processors->spec($processor);
        $values = [];
        foreach ($node->entries() as $id => $value) {
            $id = $spec->currentParameter((string) $id);
            $parameter = $spec->parameter($id);
            if ($parameter === null) {
                throw InvalidDocument::at($value->pointer, "{$spec->name} has no parameter \"{$id}\"");
            }
            $objection = $parameter->objection($value->value);
            if ($objection !== null) {
                throw InvalidDocument::at($value->pointer, "Found {$value->shown()}; {$parameter->label} of {$spec->name} {$objection}");
            }
            /** @var int|float|string|bool $plain */
            $plain = $value->value;
            $values[$id] = is_int($plain) ? (float) $plain : $plain;
        }

        return $values;
    }

    /**
     * Crossover frequencies of a split by frequency.
     *
     * @return list<float> Hz, rising
     */
    public static function crossovers(JsonNode $node, int $count): array
    {
        $items = $node->items();
        if (count($items) !== $count) {
            throw $node->expected("{$count} crossover frequencies, one fewer than there are branches");
        }
        $crossovers = [];
        foreach ($items as $item) {
            $frequency = $item->number(20.0, 20000.0, 'Hz');
            if ($crossovers !== [] && $frequency <= $crossovers[array_key_last($crossovers)]) {
                throw $item->expected('a frequency above the one before it');
            }
            $crossovers[] = $frequency;
        }

        return $crossovers;
    }

    private function insert(JsonNode $node, int $depth): Insert
    {
        $type = $node->get('type')->oneOf(['processor', 'instrument', 'note-effect', 'split', 'hardware']);

        return match ($type) {
            'split' => $this->split($node, $depth),
            'hardware' => self::hardware($node),
            default => $this->processor($node, $type),
        };
    }

    private static function hardware(JsonNode $node): HardwareInsert
    {
        $node->keys(['type', 'id', 'loop'], ['on', 'mix']);

        return new HardwareInsert(
            $node->get('id')->id(),
            $node->get('loop')->id(),
            $node->optional('on')?->boolean() ?? true,
            $node->optional('mix')?->number(0.0, 1.0) ?? 1.0,
        );
    }

    /** @param  string  $type  "processor" says it of instruments and note effects too */
    private function processor(JsonNode $node, string $type): ProcessorInsert
    {
        $node = $node->renamed(['key' => 'sidechain'])->keys(['type', 'id', 'processor'], ['on', 'mix', 'parameters', 'locked', 'other', 'preset', 'sidechain', 'notes']);
        $processor = $this->processorId($node->get('processor'));
        if ($type !== 'processor' && $this->processors->kind($processor) !== $type) {
            throw $node->get('processor')->expected($type === 'instrument' ? 'an instrument' : 'a note effect');
        }

        return new ProcessorInsert(
            $node->get('id')->id(),
            $processor,
            $node->optional('on')?->boolean() ?? true,
            $node->optional('mix')?->number(0.0, 1.0) ?? 1.0,
            $node->has('parameters') ? $this->parameters($node->get('parameters'), $processor) : [],
            $node->has('locked') ? $this->locked($node->get('locked'), $processor) : [],
            $node->has('other') ? $this->other($node->get('other'), $processor) : null,
            $node->optional('preset')?->text(0, 120) ?? '',
            $node->has('sidechain') ? $this->sidechain($node->get('sidechain'), $processor) : null,
            $node->has('notes') ? $this->notes($node->get('notes'), $processor) : null,
        );
    }

    /** The id a processor has now, from any it ever had. */
    public function processorId(JsonNode $node): string
    {
        return $this->processors->currentId($node->text(1, 100)) ?? throw $node->expected('a processor: '.implode(', ', $this->processors->ids()));
    }

    /** @return list<string> */
    private function locked(JsonNode $node, string $processor): array
    {
        $spec = $this->processors->spec($processor);
        $locked = [];
        foreach ($node->items() as $item) {
            $id = $spec->currentParameter($item->id());
            if ($spec->parameter($id) === null || in_array($id, $locked, true)) {
                throw InvalidDocument::at($item->pointer, "Found \"{$id}\"; expected parameters of {$spec->name}, each once");
            }
            $locked[] = $id;
        }

        return $locked;
    }

    private function sidechain(JsonNode $node, string $processor): TapSource
    {
        if (! $this->processors->spec($processor)->takesSidechain) {
            throw InvalidDocument::at($node->pointer, "{$this->processors->spec($processor)->name} listens to nothing but the sound it works on");
        }
        $node->keys(['channel', 'tap']);

        return new TapSource($node->get('channel')->id(), SessionCodec::tap($node->get('tap')));
    }

    private function notes(JsonNode $node, string $processor): string
    {
        return $this->processors->spec($processor)->followsNotes ? $node->id() : throw InvalidDocument::at($node->pointer, "{$this->processors->spec($processor)->name} follows no notes");
    }

    private function other(JsonNode $node, string $processor): OtherSetting
    {
        $node->keys(['side', 'parameters']);

        return new OtherSetting($node->get('side')->integer(1, 2), $this->parameters($node->get('parameters'), $processor));
    }

    private function split(JsonNode $node, int $depth): Split
    {
        if ($depth >= self::DEEPEST) {
            throw InvalidDocument::at($node->pointer, 'Splits stand in branches of splits at most '.self::DEEPEST.' deep');
        }
        $node->keys(['type', 'id', 'branches'], ['on', 'by', 'crossovers', 'selector']);
        $by = SplitBy::from($node->optional('by')?->oneOf(array_column(SplitBy::cases(), 'value')) ?? 'copies');
        $branches = array_map(fn (JsonNode $item): Branch => $this->branch($item, $depth), $node->get('branches')->items(16));
        if ($branches === [] || count($branches) < $by->fewest() || count($branches) > $by->most()) {
            throw InvalidDocument::at($node->get('branches')->pointer, sprintf(
                'Found %d branches; a split by "%s" has %s',
                count($branches),
                $by->value,
                $by->fewest() === $by->most() ? $by->most() : "{$by->fewest()} to {$by->most()}",
            ));
        }
        $crossovers = $node->optional('crossovers');
        if ($by !== SplitBy::Frequency && $crossovers !== null && $crossovers->items() !== []) {
            throw $crossovers->expected('none: only a split by frequency has crossovers');
        }

        return new Split(
            $node->get('id')->id(),
            $branches,
            $node->optional('on')?->boolean() ?? true,
            $by,
            $by === SplitBy::Frequency ? self::crossovers($node->get('crossovers'), count($branches) - 1) : [],
            $node->has('selector') ? self::selector($node->get('selector')) : null,
        );
    }

    private static function selector(JsonNode $node): Selector
    {
        $node->keys([], ['value', 'fade', 'rings', 'notes']);

        return new Selector(
            $node->optional('value')?->number(0.0, 1.0) ?? 0.0,
            SelectorFade::from($node->optional('fade')?->oneOf(array_column(SelectorFade::cases(), 'value')) ?? 'equal-power'),
            $node->optional('rings')?->boolean() ?? true,
            $node->has('notes') ? self::selectorNotes($node->get('notes')) : null,
        );
    }

    /** @throws InvalidDocument where it goes nowhere */
    public static function selectorNotes(JsonNode $node): SelectorNotes
    {
        $node->keys(['channel', 'value', 'from', 'to'], ['glide']);
        $value = NoteValue::from($node->get('value')->oneOf(array_column(NoteValue::cases(), 'value')));
        $lowest = $value === NoteValue::Key ? 0 : 1;
        $from = $node->get('from')->integer($lowest, 127);
        $to = $node->get('to')->integer($lowest, 127);
        if ($to === $from) {
            throw $node->get('to')->expected("another {$value->value} than from, which is {$from}");
        }

        return new SelectorNotes($node->get('channel')->id(), $value, $from, $to, $node->optional('glide')?->number(0.0, SelectorNotes::LONGEST_GLIDE, 'ms') ?? 20.0);
    }

    /** @return array<string, mixed> */
    private static function selectorToArray(Selector $selector): array
    {
        $notes = $selector->notes;

        return [
            'value' => $selector->value,
            'fade' => $selector->fade->value,
            'rings' => $selector->rings,
            ...($notes === null ? [] : ['notes' => ['channel' => $notes->channel, 'value' => $notes->value->value, 'from' => $notes->from, 'to' => $notes->to, 'glide' => $notes->glide]]),
        ];
    }

    /** @throws InvalidDocument where it does not go from a lower place to a higher one */
    public static function range(JsonNode $node): SelectorRange
    {
        $node->keys(['from', 'to'], ['fadeFrom', 'fadeTo']);
        $from = $node->get('from')->number(0.0, 1.0);
        $to = $node->get('to')->number(0.0, 1.0);
        if ($to <= $from) {
            throw $node->get('to')->expected("a place above from, which is {$from}");
        }

        return new SelectorRange($from, $to, $node->optional('fadeFrom')?->number(0.0, 1.0) ?? 0.0, $node->optional('fadeTo')?->number(0.0, 1.0) ?? 0.0);
    }

    /**
     * @param  int  $lowest  0 of keys, 1 of velocities
     *
     * @throws InvalidDocument where it does not go from a lower place to a higher one
     */
    public static function zone(JsonNode $node, int $lowest): NoteZone
    {
        $node->keys(['from', 'to'], ['fadeFrom', 'fadeTo']);
        $from = $node->get('from')->integer($lowest, 127);

        return new NoteZone($from, $node->get('to')->integer($from, 127), $node->optional('fadeFrom')?->integer(0, 127) ?? 0, $node->optional('fadeTo')?->integer(0, 127) ?? 0);
    }

    /** @return array<string, int> */
    private static function zoneToArray(NoteZone $zone): array
    {
        return ['from' => $zone->from, 'to' => $zone->to, 'fadeFrom' => $zone->fadeFrom, 'fadeTo' => $zone->fadeTo];
    }

    /** @return array<string, mixed> */
    public static function rangeToArray(SelectorRange $range): array
    {
        return ['from' => $range->from, 'to' => $range->to, 'fadeFrom' => $range->fadeFrom, 'fadeTo' => $range->fadeTo];
    }

    private function branch(JsonNode $node, int $depth): Branch
    {
        $node->keys(['id', 'name'], ['gain', 'pan', 'mute', 'solo', 'invert', 'inserts', 'range', 'keys', 'velocities']);
        $gain = $node->optional('gain');

        return new Branch(
            $node->get('id')->id(),
            $node->get('name')->text(1, 120),
            $gain === null ? 0.0 : $gain->gain(),
            $node->optional('pan')?->number(-1.0, 1.0) ?? 0.0,
            $node->optional('mute')?->boolean() ?? false,
            $node->optional('solo')?->boolean() ?? false,
            $node->optional('invert')?->boolean() ?? false,
            $this->decode($node->optional('inserts'), $depth + 1),
            $node->has('range') ? self::range($node->get('range')) : null,
            $node->has('keys') ? self::zone($node->get('keys'), 0) : null,
            $node->has('velocities') ? self::zone($node->get('velocities'), 1) : null,
        );
    }

    /** @return array<string, mixed> */
    private function insertToArray(Insert $insert): array
    {
        if ($insert instanceof Split) {
            return [
                'type' => 'split',
                'id' => $insert->id,
                'on' => $insert->on,
                'by' => $insert->by->value,
                'crossovers' => $insert->crossovers,
                ...($insert->selector === null ? [] : ['selector' => self::selectorToArray($insert->selector)]),
                'branches' => array_map($this->branchToArray(...), $insert->branches),
            ];
        }
        if ($insert instanceof HardwareInsert) {
            return ['type' => 'hardware', 'id' => $insert->id, 'loop' => $insert->loop, 'on' => $insert->on, 'mix' => $insert->mix];
        }
        assert($insert instanceof ProcessorInsert);

        return [
            'type' => $this->processors->kind($insert->processor),
            'id' => $insert->id,
            'processor' => $insert->processor,
            'on' => $insert->on,
            'mix' => $insert->mix,
            'parameters' => (object) $insert->parameters,
            ...($insert->locked === [] ? [] : ['locked' => $insert->locked]),
            ...($insert->sidechain === null ? [] : ['sidechain' => ['channel' => $insert->sidechain->channel, 'tap' => $insert->sidechain->tap->value]]),
            ...($insert->notes === null ? [] : ['notes' => $insert->notes]),
            ...($insert->preset === '' ? [] : ['preset' => $insert->preset]),
            ...($insert->other === null ? [] : ['other' => ['side' => $insert->other->side, 'parameters' => (object) $insert->other->parameters]]),
        ];
    }

    /** @return array<string, mixed> */
    private function branchToArray(Branch $branch): array
    {
        return [
            'id' => $branch->id,
            'name' => $branch->name,
            'gain' => $branch->gain,
            'pan' => $branch->pan,
            'mute' => $branch->mute,
            'solo' => $branch->solo,
            'invert' => $branch->invert,
            'inserts' => $this->encode($branch->inserts),
            ...($branch->range === null ? [] : ['range' => self::rangeToArray($branch->range)]),
            ...($branch->keys === null ? [] : ['keys' => self::zoneToArray($branch->keys)]),
            ...($branch->velocities === null ? [] : ['velocities' => self::zoneToArray($branch->velocities)]),
        ];
    }
}
