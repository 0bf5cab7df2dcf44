<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** For processors with nothing to draw: their values say it all. */
trait Pictureless
{
    public static function picture(ParameterValues $values, Setting $setting): ?Picture
    {
        return null;
    }
}
