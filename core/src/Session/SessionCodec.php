<?php

declare(strict_types=1);

namespace Hafen\Session;

use Hafen\Processor\ProcessorCatalogue;

/**
 * Sessions to and from the "hafen-session" format, version 1 (docs/formats/session.schema.json).
 *
 * Decoding checks types, ranges, unknown keys, and what a schema cannot say: unique ids, one main, outputs that exist,
 * parameters their processor knows.
 */
final readonly class SessionCodec
{
    public const FORMAT = 'hafen-session';

    public const VERSION = 1;

    private const MOST_BYTES = 64 << 20;

    private const MOST_CHANNELS = 512;

    private const MOST_INSERTS = 128;

    private const LONGEST = 1 << 40;

    public function __construct(private ProcessorCatalogue $processors)
    {
    }

    /**
     * @throws InvalidDocument with the JSON pointer of the place
     * @throws NotYetSupported for what the format knows and this version does not do
     */
    public function decode(string $json): Session
    {
        return $this->session(JsonNode::parse($json, self::MOST_BYTES));
    }

    public function encode(Session $session): string
    {
        return json_encode($this->toArray($session), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }

    /** @return array<string, mixed> the document, ready for json_encode */
    public function toArray(Session $session): array
    {
        return [
            'format' => self::FORMAT,
            'version' => self::VERSION,
            'name' => $session->name,
            'sampleRate' => $session->sampleRate,
            'tempo' => $session->tempo,
            'panLaw' => $session->panLaw,
            'length' => $session->length,
            'channels' => array_map($this->channelToArray(...), $session->channels),
        ];
    }

    private function session(JsonNode $node): Session
    {
        $node->keys(['format', 'version', 'name', 'sampleRate', 'channels'], ['tempo', 'panLaw', 'length']);
        $node->get('format')->oneOf([self::FORMAT]);
        $node->get('version')->integer(self::VERSION, self::VERSION);
        $channels = array_map($this->channel(...), $node->get('channels')->items(self::MOST_CHANNELS));
        $end = array_reduce(
            $channels,
            static fn (int $end, Channel $channel): int => max($end, $channel->source instanceof ClipSource ? $channel->source->end() : 0),
            0,
        );
        $this->checkIds($channels, $node->get('channels'));
        $this->checkOutputs($channels);

        return new Session(
            $node->get('name')->text(1, 120),
            $node->get('sampleRate')->integer(8000, 384_000),
            $node->optional('tempo')?->number(20.0, 400.0, 'BPM') ?? 120.0,
            $node->optional('panLaw')?->number(-6.0, 0.0, 'dB') ?? -3.0,
            $node->optional('length')?->integer(0, self::LONGEST) ?? $end,
            $channels,
        );
    }

    private function channel(JsonNode $node): Channel
    {
        $node->keys(['id', 'kind', 'name'], [
            'width', 'source', 'trim', 'insertsOn', 'inserts', 'fader', 'pan', 'mute', 'solo', 'soloSafe', 'postInserts', 'sends', 'output',
        ]);
        $kind = ChannelKind::from($node->get('kind')->oneOf(array_column(ChannelKind::cases(), 'value')));
        if (! $kind->isSupported()) {
            throw NotYetSupported::at($node->get('kind')->pointer, "channels of kind \"{$kind->value}\"");
        }
        $sends = $node->optional('sends');
        if ($sends !== null && $sends->items() !== []) {
            throw NotYetSupported::at($sends->pointer, 'sends');
        }
        $id = $node->get('id')->id();
        if ($id === 'none') {
            throw $node->get('id')->expected('an id other than "none", which says that an output goes nowhere');
        }
        $fader = $node->optional('fader');

        return new Channel(
            $id,
            $kind,
            $node->get('name')->text(1, 120),
            Width::from($node->optional('width')?->oneOf(array_column(Width::cases(), 'value')) ?? 'stereo'),
            $this->source($node->optional('source'), $kind),
            $this->trim($node->optional('trim')),
            $node->optional('insertsOn')?->boolean() ?? true,
            $this->inserts($node->optional('inserts')),
            $fader === null ? 0.0 : $fader->gain(),
            $node->optional('pan')?->number(-1.0, 1.0) ?? 0.0,
            $node->optional('mute')?->boolean() ?? false,
            $node->optional('solo')?->boolean() ?? false,
            $node->optional('soloSafe')?->boolean() ?? false,
            $this->inserts($node->optional('postInserts')),
            $this->output($node->optional('output'), $kind),
        );
    }

    private function source(?JsonNode $node, ChannelKind $kind): Source
    {
        if ($node === null) {
            return $kind === ChannelKind::Main ? new BusSource : new ClipSource;
        }
        $type = $node->get('type');
        $name = $type->oneOf(['clips', 'bus', 'tap', 'input']);
        if ($name === 'tap' || $name === 'input') {
            throw NotYetSupported::at($type->pointer, "sources of type \"{$name}\"");
        }
        if ($kind === ChannelKind::Main) {
            $type->oneOf(['bus']);
            $node->keys(['type']);

            return new BusSource;
        }
        $type->oneOf(['clips']);
        $node->keys(['type', 'clips']);
        $clips = array_map($this->clip(...), $node->get('clips')->items());
        $this->checkUnique(array_map(static fn (Clip $clip): string => $clip->id, $clips), $node->pointer.'/clips');

        return new ClipSource($clips);
    }

    private function clip(JsonNode $node): Clip
    {
        $node->keys(['id', 'file', 'start', 'length'], ['offset', 'gain']);
        $gain = $node->optional('gain');

        return new Clip(
            $node->get('id')->id(),
            $node->get('file')->text(1, 1000),
            $node->get('start')->integer(0, self::LONGEST),
            $node->optional('offset')?->integer(0, self::LONGEST) ?? 0,
            $node->get('length')->integer(1, self::LONGEST),
            $gain === null ? 0.0 : $gain->gain(),
        );
    }

    private function trim(?JsonNode $node): ChannelTrim
    {
        if ($node === null) {
            return new ChannelTrim;
        }
        $node->keys([], ['gain', 'invert']);
        $gain = $node->optional('gain');

        return new ChannelTrim($gain === null ? 0.0 : $gain->gain(), $node->optional('invert')?->boolean() ?? false);
    }

    /** @return list<Insert> */
    private function inserts(?JsonNode $node): array
    {
        return $node === null ? [] : array_map($this->insert(...), $node->items(self::MOST_INSERTS));
    }

    private function insert(JsonNode $node): Insert
    {
        $type = $node->get('type')->oneOf(['processor', 'split', 'hardware']);
        if ($type !== 'processor') {
            throw NotYetSupported::at($node->get('type')->pointer, "inserts of type \"{$type}\"");
        }
        $node->keys(['type', 'id', 'processor'], ['on', 'mix', 'parameters']);
        $processor = $node->get('processor')->text(1, 100);
        if (! $this->processors->has($processor)) {
            throw $node->get('processor')->expected('a processor: '.implode(', ', $this->processors->ids()));
        }

        return new ProcessorInsert(
            $node->get('id')->id(),
            $processor,
            $node->optional('on')?->boolean() ?? true,
            $node->optional('mix')?->number(0.0, 1.0) ?? 1.0,
            $node->has('parameters') ? $this->parameters($node->get('parameters'), $processor) : [],
        );
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

    private function output(?JsonNode $node, ChannelKind $kind): string
    {
        if ($node === null) {
            return $kind === ChannelKind::Main ? 'none' : 'main';
        }
        $output = $node->text(1, 64);
        if (preg_match('/^hw:[1-9]\d{0,2}(-[1-9]\d{0,2})?$/D', $output) === 1) {
            return $kind === ChannelKind::Main ? $output : throw $node->expected('a channel id or "none"; only the main and cues go to the interface');
        }

        return $output;
    }

    /** @param  list<Channel>  $channels */
    private function checkIds(array $channels, JsonNode $node): void
    {
        $mains = array_filter($channels, static fn (Channel $channel): bool => $channel->kind === ChannelKind::Main);
        if (count($mains) !== 1) {
            throw InvalidDocument::at($node->pointer, count($mains).' channels of kind "main"; exactly one is needed');
        }
        $this->checkUnique(array_map(static fn (Channel $channel): string => $channel->id, $channels), $node->pointer);
        $seen = [];
        foreach ($channels as $c => $channel) {
            foreach (Row::cases() as $row) {
                foreach ($channel->row($row) as $i => $insert) {
                    if (isset($seen[$insert->id()])) {
                        throw InvalidDocument::at("{$node->pointer}/{$c}/{$row->value}/{$i}/id", "The id \"{$insert->id()}\" stands twice; insert ids are unique in a session");
                    }
                    $seen[$insert->id()] = true;
                }
            }
        }
    }

    /** @param  list<string>  $ids */
    private function checkUnique(array $ids, string $pointer): void
    {
        foreach ($ids as $index => $id) {
            if (array_search($id, $ids, true) !== $index) {
                throw InvalidDocument::at("{$pointer}/{$index}/id", "The id \"{$id}\" stands twice");
            }
        }
    }

    /** @param  list<Channel>  $channels */
    private function checkOutputs(array $channels): void
    {
        $kinds = array_column(array_map(static fn (Channel $channel): array => [$channel->id, $channel->kind], $channels), 1, 0);
        foreach ($channels as $index => $channel) {
            $pointer = "/channels/{$index}/output";
            if ($channel->kind === ChannelKind::Main) {
                if ($channel->output !== 'none' && ! str_starts_with($channel->output, 'hw:')) {
                    throw InvalidDocument::at($pointer, "Found \"{$channel->output}\"; the main goes to an interface pair such as \"hw:1-2\", or \"none\"");
                }
            } elseif ($channel->output !== 'none' && ($kinds[$channel->output] ?? null) !== ChannelKind::Main) {
                throw InvalidDocument::at($pointer, "Found \"{$channel->output}\"; allowed is the id of the main, or \"none\"");
            }
        }
    }

    /** @return array<string, mixed> */
    private function channelToArray(Channel $channel): array
    {
        return [
            'id' => $channel->id,
            'kind' => $channel->kind->value,
            'name' => $channel->name,
            'width' => $channel->width->value,
            'source' => $channel->source instanceof ClipSource
                ? ['type' => 'clips', 'clips' => array_map($this->clipToArray(...), $channel->source->clips)]
                : ['type' => 'bus'],
            'trim' => ['gain' => $channel->trim->gain, 'invert' => $channel->trim->invert],
            'insertsOn' => $channel->insertsOn,
            'inserts' => array_map($this->insertToArray(...), $channel->inserts),
            'fader' => $channel->fader,
            'pan' => $channel->pan,
            'mute' => $channel->mute,
            'solo' => $channel->solo,
            'soloSafe' => $channel->soloSafe,
            'postInserts' => array_map($this->insertToArray(...), $channel->postInserts),
            'sends' => [],
            'output' => $channel->output,
        ];
    }

    /** @return array<string, mixed> */
    private function clipToArray(Clip $clip): array
    {
        return [
            'id' => $clip->id,
            'file' => $clip->file,
            'start' => $clip->start,
            'offset' => $clip->offset,
            'length' => $clip->length,
            'gain' => $clip->gain,
        ];
    }

    /** @return array<string, mixed> */
    private function insertToArray(Insert $insert): array
    {
        assert($insert instanceof ProcessorInsert);

        return [
            'type' => 'processor',
            'id' => $insert->id,
            'processor' => $insert->processor,
            'on' => $insert->on,
            'mix' => $insert->mix,
            'parameters' => (object) $insert->parameters,
        ];
    }
}
