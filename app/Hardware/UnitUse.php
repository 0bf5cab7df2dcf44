<?php

declare(strict_types=1);

namespace App\Hardware;

/** Who wants to send through a unit, in the order they come: who listens, what somebody asked for, what is measured by itself. */
enum UnitUse: string
{
    case Listening = '1';
    case Asked = '2';
    case Background = '3';
}
