<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Note\Ticks;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\FaderScale;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Channel\Performer;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Macro\RowControls;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\NoteSource;

/**
 * Sessions to and from the "hafen-session" format, version 1 (docs/formats/session.schema.json).
 *
 * Decoding checks types, ranges and unknown keys, parameters their processor knows, and {@see DocumentRules}.
 */
final readonly class SessionCodec
{
    public const FORMAT = 'hafen-session';

    public const VERSION = 1;

    private const MOST_BYTES = 64 << 20;

    public const MOST_CHANNELS = 512;

    /** Samples a session can last, and at which a clip can end. */
    public const LONGEST = 1 << 40;

    private RowCodec $rows;

    private AutomationCodec $lanes;

    private MacroCodec $macros;

    private SoundCodec $sounds;

    private DecodedChannels $decoded;

    public function __construct(private ProcessorCatalogue $processors)
    {
        $this->rows = new RowCodec($processors);
        $this->lanes = new AutomationCodec($processors);
        $this->macros = new MacroCodec(new MacroControls($processors));
        $this->sounds = new SoundCodec(new MacroControls($processors));
        $this->decoded = new DecodedChannels;
    }

    /**
     * @throws InvalidDocument with the JSON pointer of the place
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
            ...($session->loops === [] ? [] : ['loops' => LoopCodec::encode($session->loops)]),
        ];
    }

    private function session(JsonNode $node): Session
    {
        $node->keys(['format', 'version', 'name', 'sampleRate', 'channels'], ['tempo', 'panLaw', 'length', 'loops']);
        $node->get('format')->oneOf([self::FORMAT]);
        $node->get('version')->integer(self::VERSION, self::VERSION);
        $this->decoded->begin();
        $channels = array_map(
            fn (JsonNode $channel): Channel => $this->decoded->of($channel, $this->channel(...)),
            $node->get('channels')->items(self::MOST_CHANNELS),
        );
        $sampleRate = $node->get('sampleRate')->integer(8000, 384_000);
        $tempo = $node->optional('tempo')?->number(20.0, 400.0, 'BPM') ?? 120.0;
        $end = max([0, ...array_map(static fn (Channel $channel): int => self::end($channel, new Ticks($tempo, $sampleRate)), $channels)]);
        $session = new Session(
            $node->get('name')->text(1, 120),
            $sampleRate,
            $tempo,
            $node->optional('panLaw')?->number(-6.0, 0.0, 'dB') ?? -3.0,
            $node->optional('length')?->integer(0, self::LONGEST) ?? $end,
            $channels,
            LoopCodec::decode($node->optional('loops')),
        );
        DocumentRules::check($session);
        $conflict = UnitPlaces::conflict($session, $this->processors);
        if ($conflict !== null) {
            throw InvalidDocument::at('/channels', "The loop \"{$conflict->loop->name}\" is on {$conflict->one->name} and on {$conflict->other->name}, which sound at the same time; a unit is in one place at a time");
        }

        return $session;
    }

    /** The sample after the last of what a channel plays. */
    private static function end(Channel $channel, Ticks $ticks): int
    {
        return match (true) {
            $channel->source instanceof ClipSource => $channel->source->end(),
            $channel->source instanceof NoteSource => $ticks->sample($channel->source->end()),
            default => 0,
        };
    }

    private function channel(JsonNode $node): Channel
    {
        $node->keys(['id', 'kind', 'name'], [
            'width', 'source', 'trim', 'insertsOn', 'inserts', 'fader', 'pan', 'mute', 'solo', 'soloSafe', 'postInserts', 'sends', 'output', 'aligned', 'hidden', 'automation', 'frozen', 'off', 'versions', 'click', 'performer', 'macros', 'sounds',
        ]);
        $kind = ChannelKind::from($node->get('kind')->oneOf(array_column(ChannelKind::cases(), 'value')));
        $id = $node->get('id')->id();
        if ($id === 'none') {
            throw $node->get('id')->expected('an id other than "none", which says that an output goes nowhere');
        }
        $fader = $node->optional('fader');

        $channel = new Channel(
            $id,
            $kind,
            $node->get('name')->text(1, 120),
            Width::from($node->optional('width')?->oneOf(array_column(Width::cases(), 'value')) ?? 'stereo'),
            SourceCodec::source($node->optional('source'), $kind),
            $this->trim($node->optional('trim')),
            $node->optional('insertsOn')?->boolean() ?? true,
            $this->rows->decode($node->optional('inserts')),
            $fader === null ? 0.0 : $fader->gain(),
            $node->optional('pan')?->number(-1.0, 1.0) ?? 0.0,
            $node->optional('mute')?->boolean() ?? false,
            $node->optional('solo')?->boolean() ?? false,
            $node->optional('soloSafe')?->boolean() ?? false,
            $this->rows->decode($node->optional('postInserts')),
            $this->output($node->optional('output'), $kind),
            array_map($this->send(...), $node->optional('sends')?->items(self::MOST_CHANNELS) ?? []),
            $node->optional('aligned')?->boolean() ?? true,
            $node->optional('hidden')?->boolean() ?? false,
            [],
            $node->has('frozen') ? SourceCodec::frozenOf($node->get('frozen'), $kind) : null,
            self::isOff($node->optional('off'), $kind),
            $node->has('versions') ? SourceCodec::versions($node->get('versions'), $kind) : [],
            self::click($node->optional('click'), $kind),
            self::performer($node->optional('performer'), $kind),
        );

        $channel = $node->has('macros') ? $channel->withMacros($this->macros->decode($node->get('macros'), $channel)) : $channel;
        $channel = $node->has('sounds') ? $channel->withSounds($this->sounds->decode($node->get('sounds'), $channel)) : $channel;

        return $node->has('automation') ? $channel->withAutomation($this->lanes->decode($node->get('automation'), $channel)) : $channel;
    }

    private static function click(?JsonNode $node, ChannelKind $kind): ?float
    {
        $click = $node === null || $node->value === null ? null : $node->number(-60.0, 0.0, 'dBFS');

        return $click !== null && $kind !== ChannelKind::Cue ? throw $node->expected("none for a {$kind->value}: only cues hear the click") : $click;
    }

    private static function performer(?JsonNode $node, ChannelKind $kind): ?Performer
    {
        if ($node === null || $node->value === null) {
            return null;
        }
        if ($kind !== ChannelKind::Cue) {
            throw $node->expected("none for a {$kind->value}: only cues have a performer");
        }
        $node->keys([], ['tracks', 'me', 'band']);

        return new Performer(
            array_map(static fn (JsonNode $id): string => $id->id(), $node->optional('tracks')?->items(self::MOST_CHANNELS) ?? []),
            $node->has('me') ? self::performerGain($node->get('me')) : 0.0,
            $node->has('band') ? self::performerGain($node->get('band')) : 0.0,
        );
    }

    /** @throws InvalidDocument when it is no gain of a fader */
    public static function performerGain(JsonNode $node): ?float
    {
        return $node->gain(FaderScale::LOWEST, FaderScale::HIGHEST);
    }

    private static function isOff(?JsonNode $node, ChannelKind $kind): bool
    {
        $off = $node?->boolean() ?? false;

        return $off && ! $kind->canBeFrozen() ? throw $node->expected("false for a {$kind->value}: mute it instead") : $off;
    }

    private function send(JsonNode $node): Send
    {
        $node->keys(['id', 'to'], ['gain', 'tap', 'on', 'pan']);
        $gain = $node->optional('gain');
        $tap = $node->optional('tap');

        return new Send(
            $node->get('id')->id(),
            $node->get('to')->id(),
            $gain === null ? 0.0 : $gain->gain(),
            $tap === null ? TapPoint::PostFader : self::tap($tap),
            $node->optional('on')?->boolean() ?? true,
            $node->optional('pan')?->number(-1.0, 1.0) ?? 0.0,
        );
    }

    /**
     * A row as the format has it.
     *
     * @param  list<Insert>  $row
     * @return list<array<string, mixed>>
     */
    public function rowToArray(array $row): array
    {
        return $this->rows->encode($row);
    }

    /** @throws InvalidDocument when it is none of the three */
    public static function tap(JsonNode $node): TapPoint
    {
        return TapPoint::from($node->oneOf(array_column(TapPoint::cases(), 'value')));
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

    /**
     * Parameters for a processor, each checked against its spec.
     *
     * @return array<string, float|string|bool>
     *
     * @throws InvalidDocument naming the parameter, the value and what is allowed
     */
    public function parameters(JsonNode $node, string $processor): array
    {
        return $this->rows->parameters($node, $processor);
    }

    /**
     * The id a processor has now, from any it ever had.
     *
     * @throws InvalidDocument when there is none, with those there are
     */
    public function processorId(JsonNode $node): string
    {
        return $this->rows->processorId($node);
    }

    /** The macros of a channel, for edits that bring some. */
    public function macros(): MacroCodec
    {
        return $this->macros;
    }

    /**
     * The macros and sound switches that go with inserts, as `macros` and `sounds` of an object.
     *
     * @param  list<Insert>  $inserts
     *
     * @throws InvalidDocument where they move what is not among the inserts
     */
    public function controls(JsonNode $node, array $inserts): RowControls
    {
        $row = new Channel('row', ChannelKind::Track, 'Row', Width::Stereo, new ClipSource([]), inserts: $inserts);

        return new RowControls(
            $node->has('macros') ? $this->macros->decode($node->get('macros'), $row) : [],
            $node->has('sounds') ? $this->sounds->decode($node->get('sounds'), $row) : [],
        );
    }

    /** @return array<string, list<array<string, mixed>>> `macros` and `sounds`, each left out where there are none */
    public static function controlsToArray(RowControls $controls): array
    {
        return [
            ...($controls->macros === [] ? [] : ['macros' => MacroCodec::encode($controls->macros)]),
            ...($controls->sounds === [] ? [] : ['sounds' => SoundCodec::encode($controls->sounds)]),
        ];
    }

    /** The automation of a channel, for edits that bring some. */
    public function lanes(): AutomationCodec
    {
        return $this->lanes;
    }

    /**
     * A row of inserts that stands by itself, with unique ids.
     *
     * @return list<Insert>
     *
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public function row(JsonNode $node): array
    {
        $row = $this->rows->decode($node);
        DocumentRules::row($row, $node->pointer);

        return $row;
    }

    private function output(?JsonNode $node, ChannelKind $kind): string
    {
        if ($node === null) {
            return $kind->endsAtInterface() ? 'none' : 'main';
        }
        $output = $node->text(1, 64);
        if (str_starts_with($output, 'hw:') && ! InterfacePorts::isPair($output)) {
            throw $node->expected('an interface pair such as "hw:1-2"');
        }

        return $output;
    }

    /** @return array<string, mixed> */
    public function channelToArray(Channel $channel): array
    {
        return [
            'id' => $channel->id,
            'kind' => $channel->kind->value,
            'name' => $channel->name,
            'width' => $channel->width->value,
            'source' => SourceCodec::sourceToArray($channel->source),
            'trim' => ['gain' => $channel->trim->gain, 'invert' => $channel->trim->invert],
            'insertsOn' => $channel->insertsOn,
            'inserts' => $this->rows->encode($channel->inserts),
            'fader' => $channel->fader,
            'pan' => $channel->pan,
            'mute' => $channel->mute,
            'solo' => $channel->solo,
            'soloSafe' => $channel->soloSafe,
            'postInserts' => $this->rows->encode($channel->postInserts),
            'sends' => array_map($this->sendToArray(...), $channel->sends),
            'output' => $channel->output,
            'aligned' => $channel->aligned,
            'hidden' => $channel->hidden,
            ...($channel->automation === [] ? [] : ['automation' => AutomationCodec::encode($channel->automation)]),
            ...($channel->macros === [] ? [] : ['macros' => MacroCodec::encode($channel->macros)]),
            ...($channel->sounds === [] ? [] : ['sounds' => SoundCodec::encode($channel->sounds)]),
            ...($channel->off ? ['off' => true] : []),
            ...($channel->click === null ? [] : ['click' => $channel->click]),
            ...($channel->performer === null ? [] : ['performer' => ['tracks' => $channel->performer->tracks, 'me' => $channel->performer->me, 'band' => $channel->performer->band]]),
            ...($channel->versions === [] ? [] : ['versions' => array_map(SourceCodec::versionToArray(...), $channel->versions)]),
            ...($channel->frozen === null ? [] : ['frozen' => SourceCodec::frozenToArray($channel->frozen)]),
        ];
    }

    /** @return array<string, mixed> */
    private function sendToArray(Send $send): array
    {
        return [
            'id' => $send->id,
            'to' => $send->to,
            'gain' => $send->gain,
            'tap' => $send->tap->value,
            'on' => $send->on,
            'pan' => $send->pan,
        ];
    }
}
