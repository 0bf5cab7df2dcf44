<?php

declare(strict_types=1);

namespace Hafen\Processor;

enum ParameterKind: string
{
    case Number = 'number';
    case Choice = 'choice';
    case Toggle = 'switch';
    case AudioFile = 'audio-file';
}
