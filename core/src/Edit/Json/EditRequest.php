<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Insert\Row;
use JsonSerializable;

/** An edit that is proposed, not made yet: what the Pilot and the remedies offer, as {@see EditCodec} reads it. */
final readonly class EditRequest implements JsonSerializable
{
    /** @param  array<string, mixed>  $fields  as docs/formats/edits.md lists them */
    private function __construct(public array $fields)
    {
    }

    /** @param  list<string>  $channels */
    public static function setOutput(array $channels, string $output): self
    {
        return new self(['type' => 'set-output', 'channels' => $channels, 'output' => $output]);
    }

    /** @param  list<string>  $channels */
    public static function setMute(array $channels, bool $mute): self
    {
        return new self(['type' => 'set-mute', 'channels' => $channels, 'mute' => $mute]);
    }

    /** @param  list<string>  $channels */
    public static function unfreeze(array $channels): self
    {
        return new self(['type' => 'unfreeze', 'channels' => $channels]);
    }

    /** @param  list<string>  $channels */
    public static function removeChannels(array $channels): self
    {
        return new self(['type' => 'remove-channels', 'channels' => $channels]);
    }

    /** @param  list<string>  $channels */
    public static function groupChannels(array $channels, string $name): self
    {
        return new self(['type' => 'group-channels', 'channels' => $channels, 'name' => $name]);
    }

    /** @param  list<string>  $channels */
    public static function setSoloSafe(array $channels, bool $soloSafe): self
    {
        return new self(['type' => 'set-solo-safe', 'channels' => $channels, 'soloSafe' => $soloSafe]);
    }

    /** @param  list<string>  $channels */
    public static function setAligned(array $channels, bool $aligned): self
    {
        return new self(['type' => 'set-aligned', 'channels' => $channels, 'aligned' => $aligned]);
    }

    /** @param  list<string>  $channels */
    public static function setPolarity(array $channels, bool $invert): self
    {
        return new self(['type' => 'set-polarity', 'channels' => $channels, 'invert' => $invert]);
    }

    /**
     * @param  list<string>  $channels
     * @param  ?float  $gain  dB; null is silence
     */
    public static function setFader(array $channels, ?float $gain): self
    {
        return new self(['type' => 'set-fader', 'channels' => $channels, 'gain' => $gain]);
    }

    /**
     * @param  list<string>  $channels
     * @param  float  $by  dB
     */
    public static function moveFaders(array $channels, float $by): self
    {
        return new self(['type' => 'move-faders', 'channels' => $channels, 'by' => $by]);
    }

    /**
     * @param  list<string>  $channels
     * @param  float  $by  dB
     */
    public static function moveTrims(array $channels, float $by): self
    {
        return new self(['type' => 'move-trims', 'channels' => $channels, 'by' => $by]);
    }

    /**
     * @param  list<string>  $channels
     * @param  float  $by  dB
     */
    public static function moveClipGains(array $channels, float $by): self
    {
        return new self(['type' => 'move-clip-gains', 'channels' => $channels, 'by' => $by]);
    }

    /** @param  list<string>  $sends */
    public static function setSendTap(array $sends, TapPoint $tap): self
    {
        return new self(['type' => 'set-send-tap', 'sends' => $sends, 'tap' => $tap->value]);
    }

    /** @param  list<string>  $channels */
    public static function setRow(array $channels, bool $on): self
    {
        return new self(['type' => 'set-row', 'channels' => $channels, 'on' => $on]);
    }

    /**
     * @param  list<string>  $channels
     * @param  array<string, int|float|string|bool>  $parameters
     * @param  ?int  $at  place in the row; null is its end
     */
    public static function addInsert(array $channels, string $processor, array $parameters, ?int $at = null): self
    {
        return new self(['type' => 'add-insert', 'channels' => $channels, 'processor' => $processor, 'parameters' => $parameters, ...($at === null ? [] : ['at' => $at])]);
    }

    /** @param  ?int  $at  place in the row; null is its end */
    public static function moveInsert(string $insert, string $channel, ?int $at = null): self
    {
        return new self(['type' => 'move-insert', 'insert' => $insert, 'channel' => $channel, 'row' => Row::Inserts->value, ...($at === null ? [] : ['at' => $at])]);
    }

    /** @param  float  $mix  0 to 1 */
    public static function setMix(string $insert, float $mix): self
    {
        return new self(['type' => 'set-mix', 'insert' => $insert, 'mix' => $mix]);
    }

    public static function setParameter(string $insert, string $parameter, int|float|string|bool $value): self
    {
        return new self(['type' => 'set-parameter', 'insert' => $insert, 'parameter' => $parameter, 'value' => $value]);
    }

    /** @param  array<string, int|float|string|bool>  $parameters */
    public static function setParameters(string $insert, array $parameters): self
    {
        return new self(['type' => 'set-parameters', 'insert' => $insert, 'parameters' => $parameters]);
    }

    /**
     * @param  float  $frequency  Hz
     * @param  float  $depth  dB
     */
    public static function cutFrequency(string $channel, float $frequency, float $depth): self
    {
        return new self(['type' => 'cut-frequency', 'channel' => $channel, 'frequency' => $frequency, 'depth' => $depth]);
    }

    public static function keepLevel(string $split): self
    {
        return new self(['type' => 'keep-level', 'split' => $split]);
    }

    /** @return array<string, mixed> */
    public function jsonSerialize(): array
    {
        return $this->fields;
    }
}
