<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Block;

/**
 * Changes sound. One class per processor; a new one is a file here and a line in {@see ProcessorCatalogue}.
 *
 * What a call to {@see process()} gives depends only on the samples so far and the values set, never on how the samples
 * are cut into blocks. The wet signal alone comes out: dry/wet, bypass and level readings are the engine's.
 */
interface Processor
{
    public static function spec(): ProcessorSpec;

    /** Two or three words for lists and sentences: "High-pass 90". */
    public static function label(ParameterValues $values): string;

    /** What stands on the chip in the row: "HP" over "90 Hz". */
    public static function chip(ParameterValues $values): ChipLabel;

    /** The picture that explains these values. */
    public static function picture(ParameterValues $values, Setting $setting): ?Picture;

    /** Samples by which the output comes later than the input with these values. */
    public static function latencyOf(ParameterValues $values, Setting $setting): int;

    public function __construct(Setting $setting);

    /** Takes new values. Called before the first block, and often while a control moves. */
    public function set(ParameterValues $values): void;

    /** Works on a block in place. */
    public function process(Block $block): void;

    /** Forgets all sound heard so far. */
    public function reset(): void;

    /** Samples by which the output comes later than the input, with the values last set. */
    public function latency(): int;

    /** Samples for which sound goes on (above about -60 dB) after the input stopped, with the values last set. */
    public function tail(): int;
}
