<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\NoteCodec;
use Hafen\Document\SessionCodec;
use Hafen\Edit\Automation\Fade;
use Hafen\Edit\Automation\KeepsAutomation;
use Hafen\Edit\Automation\SetAutomation;
use Hafen\Edit\Channel\AddChannel;
use Hafen\Edit\Channel\MoveChannel;
use Hafen\Edit\Channel\NewChannels;
use Hafen\Edit\Channel\NewFile;
use Hafen\Edit\Channel\PutFile;
use Hafen\Edit\Channel\RemoveChannels;
use Hafen\Edit\Channel\RenameChannel;
use Hafen\Edit\Channel\RenameSession;
use Hafen\Edit\Channel\SetMute;
use Hafen\Edit\Channel\SetSolo;
use Hafen\Edit\Channel\SetSoloSafe;
use Hafen\Edit\Channel\SetTempo;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Freeze\KeepsFreezes;
use Hafen\Edit\Hardware\KeepsUnits;
use Hafen\Edit\Insert\AddInsert;
use Hafen\Edit\Insert\CopyInserts;
use Hafen\Edit\Insert\CutFrequency;
use Hafen\Edit\Insert\DropOtherSetting;
use Hafen\Edit\Insert\DropsBrokenSidechains;
use Hafen\Edit\Insert\MoveInsert;
use Hafen\Edit\Insert\RemoveInserts;
use Hafen\Edit\Insert\ReplaceInsert;
use Hafen\Edit\Insert\Rows;
use Hafen\Edit\Insert\SetInsertNotes;
use Hafen\Edit\Insert\SetInsertOn;
use Hafen\Edit\Insert\SetLocked;
use Hafen\Edit\Insert\SetMix;
use Hafen\Edit\Insert\SetParameter;
use Hafen\Edit\Insert\SetParameters;
use Hafen\Edit\Insert\SetRow;
use Hafen\Edit\Insert\SetSidechain;
use Hafen\Edit\Insert\SwapInserts;
use Hafen\Edit\Insert\SwapSettings;
use Hafen\Edit\Level\MoveClipGains;
use Hafen\Edit\Level\MoveFaders;
use Hafen\Edit\Level\MoveTrims;
use Hafen\Edit\Level\SetFader;
use Hafen\Edit\Level\SetPan;
use Hafen\Edit\Level\SetPolarity;
use Hafen\Edit\Level\SetTrim;
use Hafen\Edit\Macro\KeepsMacros;
use Hafen\Edit\Refusals\NoSuchInsert;
use Hafen\Edit\Several;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Session;

/**
 * Edits from JSON: `{"type": "set-fader", "channels": ["cello"], "gain": -3.0}`. docs/formats/edits.md lists them.
 *
 * Every refusal names the field, the value and what is allowed.
 */
final readonly class EditCodec
{
    public function __construct(private ProcessorCatalogue $processors, private SessionCodec $sessions)
    {
    }

    /**
     * @param  Session  $session  the edit is for: parameters are checked against the processor that is there
     *
     * @throws InvalidDocument with the JSON pointer of the field
     * @throws EditRefused when it names an insert that is not there
     */
    public function decode(JsonNode $node, Session $session): Edit
    {
        return new KeepsUnits(new KeepsFreezes(new DropsBrokenSidechains(new KeepsMacros(new KeepsAutomation($this->edit($node, $session)), new MacroControls($this->processors))), $this->processors), $this->processors);
    }

    private function edit(JsonNode $node, Session $session): Edit
    {
        $node = FormerNames::replaced($node);
        $type = $node->get('type');
        $name = is_string($type->value) ? $type->value : '';
        $fields = fn (string ...$keys): JsonNode => $node->keys(['type', ...array_values($keys)]);

        return match ($name) {
            'rename-session' => new RenameSession($fields('name')->get('name')->text(1, 120)),
            'set-tempo' => new SetTempo($fields('tempo')->get('tempo')->number(20.0, 400.0, 'BPM')),
            'add-channel' => $this->addChannel($node),
            'rename-channel' => new RenameChannel($fields('channel', 'name')->get('channel')->id(), $node->get('name')->text(1, 120)),
            'move-channel' => new MoveChannel($fields('channel', 'to')->get('channel')->id(), $node->get('to')->integer(0, NewChannels::MOST)),
            'remove-channels' => new RemoveChannels(self::ids($fields('channels')->get('channels'))),
            'put-file' => new PutFile($fields('channel', 'file')->get('channel')->id(), self::file($node->get('file'))),
            'set-fader' => new SetFader(self::ids($fields('channels', 'gain')->get('channels')), $node->get('gain')->gain()),
            'move-faders' => new MoveFaders(self::ids($fields('channels', 'by')->get('channels')), $node->get('by')->number(-96.0, 96.0, 'dB')),
            'set-trim' => new SetTrim(self::ids($fields('channels', 'gain')->get('channels')), $node->get('gain')->gain()),
            'move-trims' => new MoveTrims(self::ids($fields('channels', 'by')->get('channels')), $node->get('by')->number(-96.0, 96.0, 'dB')),
            'move-clip-gains' => new MoveClipGains(self::ids($fields('channels', 'by')->get('channels')), $node->get('by')->number(-96.0, 96.0, 'dB')),
            'several' => new Several($fields('label', 'edits')->get('label')->text(1, 200), $node->get('edits')->items(Several::MOST), $this),
            'set-automation' => $this->setAutomation($fields('channel', 'target', 'points'), $session),
            'fade' => self::fade($fields('channels', 'direction', 'from', 'to')),
            'set-polarity' => new SetPolarity(self::ids($fields('channels', 'invert')->get('channels')), $node->get('invert')->boolean()),
            'set-pan' => new SetPan(self::ids($fields('channels', 'pan')->get('channels')), $node->get('pan')->number(-1.0, 1.0)),
            'set-mute' => new SetMute(self::ids($fields('channels', 'mute')->get('channels')), $node->get('mute')->boolean()),
            'set-solo' => new SetSolo(self::ids($fields('channels', 'solo')->get('channels')), $node->get('solo')->boolean()),
            'set-solo-safe' => new SetSoloSafe(self::ids($fields('channels', 'soloSafe')->get('channels')), $node->get('soloSafe')->boolean()),
            'set-row' => new SetRow(self::ids($fields('channels', 'on')->get('channels')), $node->get('on')->boolean()),
            'add-insert' => $this->addInsert($node),
            'cut-frequency' => $this->cutFrequency($fields('channel', 'frequency', 'depth')),
            'replace-insert' => $this->replaceInsert($fields('insert', 'processor'), $session),
            'move-insert' => $this->moveInsert($node),
            'swap-inserts' => new SwapInserts($fields('insert', 'with')->get('insert')->id(), $node->get('with')->id()),
            'copy-inserts' => $this->copyInserts($node),
            'remove-inserts' => new RemoveInserts(self::ids($fields('inserts')->get('inserts'))),
            'set-insert-on' => new SetInsertOn(self::ids($fields('inserts', 'on')->get('inserts')), $node->get('on')->boolean()),
            'set-mix' => new SetMix($fields('insert', 'mix')->get('insert')->id(), $node->get('mix')->number(0.0, 1.0)),
            'set-parameter' => $this->setParameter($fields('insert', 'parameter', 'value'), $session),
            'set-parameters' => $this->setParameters($node, $session),
            'set-locked' => new SetLocked($fields('insert', 'parameter', 'locked')->get('insert')->id(), $this->parameterOf($node, $session), $node->get('locked')->boolean()),
            'set-sidechain' => $this->setSidechain($fields('insert', 'sidechain'), $session),
            'set-insert-notes' => $this->setInsertNotes($fields('insert', 'notes'), $session),
            'swap-settings' => new SwapSettings($fields('insert')->get('insert')->id()),
            'drop-other-setting' => new DropOtherSetting($fields('insert')->get('insert')->id()),
            default => PrintEditCodec::decode($name, $node, $this->processors)
                ?? LoopEditCodec::decode($name, $node)
                ?? MacroEditCodec::decode($name, $node, $session, $this->processors, $this->sessions->macros())
                ?? SoundEditCodec::decode($name, $node, $this->processors)
                ?? NoteEditCodec::decode($name, $node)
                ?? RoutingEditCodec::decode($name, $node, $this->processors, $this->sessions)
                ?? SplitEditCodec::decode($name, $node, $session, $this->processors, $this->sessions)
                ?? throw $type->expected('the type of an edit, see docs/formats/edits.md'),
        };
    }

    private function setAutomation(JsonNode $node, Session $session): SetAutomation
    {
        $channel = Channels::find($session, $node->get('channel')->id());
        $target = $this->sessions->lanes()->target($node->get('target'), $channel);

        return new SetAutomation($channel->id, $target, $this->sessions->lanes()->points($node->get('points'), $target, $channel));
    }

    private static function fade(JsonNode $node): Fade
    {
        $from = $node->get('from')->integer(0, 1 << 40);

        return new Fade(
            self::ids($node->get('channels')),
            $node->get('direction')->oneOf(['in', 'out']) === 'in',
            $from,
            $node->get('to')->integer($from + 1, 1 << 40),
        );
    }

    private function addChannel(JsonNode $node): AddChannel
    {
        $node->keys(['type', 'name'], ['width', 'file', 'kind', 'tap', 'notes']);
        $file = $node->optional('file');
        $tap = $node->optional('tap');
        $kind = ChannelKind::from($node->optional('kind')?->oneOf(['track', 'note', 'group', 'return', 'cue']) ?? 'track');
        if ($kind !== ChannelKind::Track && ($file ?? $tap) !== null) {
            throw ($file ?? $tap)->expected('nothing here: only a track has a file or a tap as its source');
        }

        $notes = $node->optional('notes');
        if ($kind !== ChannelKind::Note && $notes !== null) {
            throw $notes->expected('nothing here: only a note channel has notes');
        }

        return new AddChannel(
            $node->get('name')->text(1, 120),
            Width::from($node->optional('width')?->oneOf(array_column(Width::cases(), 'value')) ?? 'stereo'),
            $file === null ? null : self::file($file),
            $kind,
            $tap === null ? null : RoutingEditCodec::tapSource($tap->keys(['channel', 'tap'])),
            $notes === null ? null : NoteCodec::clip($notes),
        );
    }

    private function cutFrequency(JsonNode $node): CutFrequency
    {
        return new CutFrequency(
            $node->get('channel')->id(),
            $this->processors->spec(CutFrequency::PROCESSOR),
            $node->get('frequency')->number(20.0, 20000.0, 'Hz'),
            $node->get('depth')->number(0.1, 24.0, 'dB'),
        );
    }

    private function addInsert(JsonNode $node): AddInsert
    {
        $node->keys(['type', 'channels', 'processor'], ['row', 'at', 'branch', 'parameters', 'preset']);
        $spec = $this->processor($node->get('processor'));

        return new AddInsert(
            self::ids($node->get('channels')),
            $spec,
            self::row($node),
            $node->optional('at')?->integer(0, Rows::MOST),
            $node->has('parameters') ? $this->sessions->parameters($node->get('parameters'), $spec->id) : [],
            self::branch($node),
            $node->optional('preset')?->text(0, 120) ?? '',
        );
    }

    private function replaceInsert(JsonNode $node, Session $session): ReplaceInsert
    {
        $insert = $node->get('insert')->id();

        return new ReplaceInsert($insert, $this->processor($node->get('processor')), $this->specOf($insert, $session)->wetOnly);
    }

    private function moveInsert(JsonNode $node): MoveInsert
    {
        $node->keys(['type', 'insert', 'channel'], ['row', 'at', 'branch']);

        return new MoveInsert(
            $node->get('insert')->id(),
            $node->get('channel')->id(),
            self::row($node),
            $node->optional('at')?->integer(0, Rows::MOST),
            self::branch($node),
        );
    }

    private function copyInserts(JsonNode $node): CopyInserts
    {
        $node->keys(['type', 'inserts', 'channels'], ['row', 'at', 'branch']);

        return new CopyInserts(
            self::ids($node->get('inserts')),
            self::ids($node->get('channels')),
            self::row($node),
            $node->optional('at')?->integer(0, Rows::MOST),
            self::branch($node),
        );
    }

    private function setParameter(JsonNode $node, Session $session): SetParameter
    {
        $insert = $node->get('insert')->id();
        $spec = $this->specOf($insert, $session);
        $parameter = $this->parameterOf($node, $session);
        $value = $node->get('value');
        $objection = $parameter->objection($value->value);
        if ($objection !== null) {
            throw InvalidDocument::at($value->pointer, "Found {$value->shown()}; {$parameter->label} of {$spec->name} {$objection}");
        }
        /** @var int|float|string|bool $plain */
        $plain = $value->value;

        return new SetParameter($insert, $parameter, is_int($plain) ? (float) $plain : $plain);
    }

    private function setSidechain(JsonNode $node, Session $session): SetSidechain
    {
        $insert = $node->get('insert')->id();
        $sidechain = $node->get('sidechain');
        if ($sidechain->value !== null && ! $this->specOf($insert, $session)->takesSidechain) {
            throw InvalidDocument::at($sidechain->pointer, "{$this->specOf($insert, $session)->name} listens to nothing but the sound it works on");
        }

        return new SetSidechain($insert, $sidechain->value === null ? null : RoutingEditCodec::tapSource($sidechain->keys(['channel', 'tap'])));
    }

    private function setInsertNotes(JsonNode $node, Session $session): SetInsertNotes
    {
        $insert = $node->get('insert')->id();
        $notes = $node->get('notes');
        if ($notes->value !== null && ! $this->specOf($insert, $session)->followsNotes) {
            throw InvalidDocument::at($notes->pointer, "{$this->specOf($insert, $session)->name} follows no notes");
        }

        return new SetInsertNotes($insert, $notes->value === null ? null : $notes->id());
    }

    private function parameterOf(JsonNode $node, Session $session): ParameterSpec
    {
        $spec = $this->specOf($node->get('insert')->id(), $session);
        $id = $spec->currentParameter($node->get('parameter')->id());

        return $spec->parameter($id) ?? throw InvalidDocument::at($node->get('parameter')->pointer, "{$spec->name} has no parameter \"{$id}\"");
    }

    private function setParameters(JsonNode $node, Session $session): SetParameters
    {
        $node->keys(['type', 'insert', 'parameters'], ['preset']);
        $insert = $node->get('insert')->id();

        return new SetParameters(
            $insert,
            $this->sessions->parameters($node->get('parameters'), $this->specOf($insert, $session)->id),
            $node->optional('preset')?->text(0, 120) ?? '',
        );
    }

    private function processor(JsonNode $node): ProcessorSpec
    {
        return $this->processors->spec($node->oneOf($this->processors->ids()));
    }

    private function specOf(string $insert, Session $session): ProcessorSpec
    {
        $found = Channels::insert($session, $insert)->insert;

        return $found instanceof ProcessorInsert ? $this->processors->spec($found->processor) : throw NoSuchInsert::withId($insert);
    }

    /** The branch something goes into; null is the row itself. */
    public static function branch(JsonNode $node): ?string
    {
        $branch = $node->optional('branch');

        return $branch === null || $branch->value === null ? null : $branch->id();
    }

    /** The row something goes into; the one before the fader where none is named. */
    public static function row(JsonNode $node): Row
    {
        return Row::from($node->optional('row')?->oneOf(array_column(Row::cases(), 'value')) ?? 'inserts');
    }

    public static function file(JsonNode $node): NewFile
    {
        $node->keys(['file', 'length', 'width'], ['start', 'clipped']);

        $length = $node->get('length')->integer(1, SessionCodec::LONGEST);

        return new NewFile(
            $node->get('file')->text(1, 1000),
            $length,
            Width::from($node->get('width')->oneOf(array_column(Width::cases(), 'value'))),
            // It ends where a session can still end.
            $node->optional('start')?->integer(0, SessionCodec::LONGEST - $length) ?? 0,
            $node->optional('clipped')?->integer(0, 2 * SessionCodec::LONGEST) ?? 0,
        );
    }

    /**
     * @return list<string> each once
     *
     * @throws InvalidDocument where one stands twice
     */
    public static function ids(JsonNode $node): array
    {
        $ids = [];
        foreach ($node->items(NewChannels::MOST) as $item) {
            $id = $item->id();
            if (in_array($id, $ids, true)) {
                throw $item->expected('an id that does not stand here already');
            }
            $ids[] = $id;
        }

        return $ids;
    }
}
