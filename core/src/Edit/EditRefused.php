<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Refusal;

/** An edit that would break a rule; each kind is a class in {@see Refusals}. `location` names the rule. */
abstract class EditRefused extends Refusal
{
}
