<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Document\SourceCodec;
use Hafen\Edit\Channel\CopyMixToCue;
use Hafen\Edit\Channel\GroupChannels;
use Hafen\Edit\Channel\NewChannels;
use Hafen\Edit\Channel\SetAligned;
use Hafen\Edit\Channel\SetClick;
use Hafen\Edit\Channel\SetHidden;
use Hafen\Edit\Channel\SetInput;
use Hafen\Edit\Channel\SetOutput;
use Hafen\Edit\Channel\SetPerformer;
use Hafen\Edit\Channel\SetPerformerGain;
use Hafen\Edit\Channel\SetSource;
use Hafen\Edit\Edit;
use Hafen\Edit\Send\AddSend;
use Hafen\Edit\Send\CopySends;
use Hafen\Edit\Send\MoveSends;
use Hafen\Edit\Send\PutSends;
use Hafen\Edit\Send\RemoveSends;
use Hafen\Edit\Send\SendPosition;
use Hafen\Edit\Send\SendToNewReturn;
use Hafen\Edit\Send\SetSendGain;
use Hafen\Edit\Send\SetSendOn;
use Hafen\Edit\Send\SetSendPan;
use Hafen\Edit\Send\SetSendTap;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\PerformerPart;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\TapSource;

/** The edits that lead sound from channel to channel, from JSON; {@see EditCodec}. */
final class RoutingEditCodec
{
    /**
     * @return ?Edit null when the name is of none of these
     *
     * @throws InvalidDocument with the JSON pointer of the field
     */
    public static function decode(string $name, JsonNode $node, ProcessorCatalogue $processors, SessionCodec $sessions): ?Edit
    {
        $fields = static fn (string ...$keys): JsonNode => $node->keys(['type', ...array_values($keys)]);

        return match ($name) {
            'set-output' => new SetOutput(EditCodec::ids($fields('channels', 'output')->get('channels')), $node->get('output')->text(1, 64)),
            'set-source' => new SetSource($fields('channel', 'source')->get('channel')->id(), self::source($node->get('source'))),
            'set-input' => self::setInput($node->keys(['type', 'channel', 'input'], ['monitor'])),
            'set-click' => new SetClick($fields('cue', 'click')->get('cue')->id(), $node->get('click')->value === null ? null : $node->get('click')->number(-60.0, 0.0, 'dBFS')),
            'set-performer' => new SetPerformer($fields('cue', 'tracks')->get('cue')->id(), $node->get('tracks')->value === null ? null : EditCodec::ids($node->get('tracks'))),
            'set-performer-gain' => new SetPerformerGain(
                $fields('cue', 'part', 'gain')->get('cue')->id(),
                PerformerPart::from($node->get('part')->oneOf(array_column(PerformerPart::cases(), 'value'))),
                SessionCodec::performerGain($node->get('gain')),
            ),
            'set-aligned' => new SetAligned(EditCodec::ids($fields('channels', 'aligned')->get('channels')), $node->get('aligned')->boolean()),
            'set-hidden' => new SetHidden(EditCodec::ids($fields('channels', 'hidden')->get('channels')), $node->get('hidden')->boolean()),
            'group-channels' => new GroupChannels(
                EditCodec::ids($node->keys(['type', 'channels'], ['name'])->get('channels')),
                $node->optional('name')?->text(1, 120) ?? 'Group',
            ),
            'add-send' => self::addSend($node),
            'set-send-gain' => new SetSendGain(EditCodec::ids($fields('sends', 'gain')->get('sends')), $node->get('gain')->gain()),
            'move-sends' => new MoveSends(EditCodec::ids($fields('sends', 'by')->get('sends')), $node->get('by')->number(-96.0, 96.0, 'dB')),
            'set-send-tap' => new SetSendTap(EditCodec::ids($fields('sends', 'tap')->get('sends')), SessionCodec::tap($node->get('tap'))),
            'set-send-on' => new SetSendOn(EditCodec::ids($fields('sends', 'on')->get('sends')), $node->get('on')->boolean()),
            'set-send-pan' => new SetSendPan(EditCodec::ids($fields('sends', 'pan')->get('sends')), $node->get('pan')->number(-1.0, 1.0)),
            'put-sends' => new PutSends(array_map(self::position(...), $fields('sends')->get('sends')->items(NewChannels::MOST * 8))),
            'remove-sends' => new RemoveSends(EditCodec::ids($fields('sends')->get('sends'))),
            'copy-sends' => new CopySends(EditCodec::ids($fields('sends', 'channels')->get('sends')), EditCodec::ids($node->get('channels'))),
            'send-to-new-return' => self::sendToNewReturn($node, $processors, $sessions),
            'copy-mix-to-cue' => new CopyMixToCue($fields('cue')->get('cue')->id()),
            default => null,
        };
    }

    private static function setInput(JsonNode $node): SetInput
    {
        return new SetInput($node->get('channel')->id(), $node->get('input')->value === null ? null : SourceCodec::input($node));
    }

    public static function tapSource(JsonNode $node): TapSource
    {
        return new TapSource($node->get('channel')->id(), SessionCodec::tap($node->get('tap')));
    }

    private static function source(JsonNode $node): TapSource|ClipSource
    {
        if ($node->get('type')->oneOf(['clips', 'tap']) === 'clips') {
            $node->keys(['type']);

            return new ClipSource;
        }

        return self::tapSource($node->keys(['type', 'channel', 'tap']));
    }

    private static function addSend(JsonNode $node): AddSend
    {
        $node->keys(['type', 'channels', 'to'], ['gain', 'tap', 'pan']);
        $gain = $node->optional('gain');
        $tap = $node->optional('tap');

        return new AddSend(
            EditCodec::ids($node->get('channels')),
            $node->get('to')->id(),
            $gain === null ? null : [$gain->gain()],
            $tap === null ? null : SessionCodec::tap($tap),
            $node->optional('pan')?->number(-1.0, 1.0) ?? 0.0,
        );
    }

    private static function position(JsonNode $node): SendPosition
    {
        $node->keys(['channel', 'to'], ['gain', 'tap', 'on', 'pan']);
        $tap = $node->optional('tap');

        return new SendPosition(
            $node->get('channel')->id(),
            $node->get('to')->id(),
            $node->has('gain') ? [$node->get('gain')->gain()] : null,
            $tap === null ? null : SessionCodec::tap($tap),
            $node->optional('on')?->boolean(),
            $node->optional('pan')?->number(-1.0, 1.0),
        );
    }

    private static function sendToNewReturn(JsonNode $node, ProcessorCatalogue $processors, SessionCodec $sessions): SendToNewReturn
    {
        $node->keys(['type', 'channels', 'processor'], ['parameters', 'name', 'gain']);
        $spec = $processors->spec($node->get('processor')->oneOf($processors->ids()));
        $gain = $node->optional('gain');

        return new SendToNewReturn(
            EditCodec::ids($node->get('channels')),
            $spec,
            $node->has('parameters') ? $sessions->parameters($node->get('parameters'), $spec->id) : [],
            $node->optional('name')?->text(1, 120),
            $gain === null ? null : [$gain->gain()],
        );
    }
}
