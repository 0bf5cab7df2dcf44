<?php

declare(strict_types=1);

use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Edit\Json\EditCodec;
use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Session;
use Hafen\Tests\Support\Mix;

/** @param  array<string, mixed>  $edit */
function edited(Session $session, array|EditRequest $edit): Session
{
    $processors = Mix::processors();
    $codec = new EditCodec($processors, new SessionCodec($processors));

    return $codec->decode(JsonNode::parse((string) json_encode($edit), 1 << 20), $session)->apply($session);
}
