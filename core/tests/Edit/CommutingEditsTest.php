<?php

declare(strict_types=1);

use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Edit\Edit;
use Hafen\Edit\Json\EditCodec;
use Hafen\Refusal;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundSwitch;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomEdits;
use Hafen\Tests\Support\RandomRouting;

// An edit made on an older state is carried over where it touches other things: so two that touch different things must give the
// same session in either order. Where that is not so, one of them says too little of what it touches.

/** @return ?array{Edit, list<string>} the edit and what it touches; null where it is refused */
function decoded(array $edit, Session $session): ?array
{
    $processors = Mix::processors();
    try {
        $decoded = (new EditCodec($processors, new SessionCodec($processors)))->decode(new JsonNode(json_decode((string) json_encode($edit))), $session);
        $decoded->apply($session);

        return [$decoded, $decoded->touches($session)];
    } catch (Refusal) {
        return null;
    }
}

/**
 * @param  list<string>  $some
 * @param  list<string>  $others
 */
function overlapping(array $some, array $others): bool
{
    foreach ($some as $a) {
        foreach ($others as $b) {
            if ($a === $b || $a === '' || $b === '' || str_starts_with($a, "{$b}/") || str_starts_with($b, "{$a}/")) {
                return true;
            }
        }
    }

    return false;
}

/** How many things with ids a session has: what makes new ones gives them ids in the order it is made. */
function parts(Session $session): int
{
    $parts = count($session->channels);
    foreach ($session->channels as $channel) {
        $parts += array_sum(array_map(static fn (Insert $insert): int => 1 + count($insert->branches()), $channel->allInserts())) + count($channel->sends) + count($channel->macros)
            + array_sum(array_map(static fn (SoundSwitch $switch): int => 1 + count($switch->sounds), $channel->sounds));
    }

    return $parts;
}

/** Some channels get macros, which move what they can. */
function withMacrosAndMoves(Session $session): Session
{
    foreach (array_slice($session->channels, 0, 4) as $channel) {
        for ($i = 0; $i < 2; ++$i) {
            $session = decoded(['type' => 'add-macro', 'channel' => $channel->id, 'name' => 'Bite'], $session)[0]->apply($session);
        }
    }
    for ($step = 0; $step < 3000; ++$step) {
        $edit = RandomEdits::next($session);
        if ($edit['type'] === 'set-macro-move') {
            $session = (decoded($edit, $session)[0] ?? null)?->apply($session) ?? $session;
        }
    }

    return $session;
}

it('gives the same in either order where two edits say they touch different things', function (int $seed): void {
    [$session] = RandomRouting::make($seed, 10);
    mt_srand($seed);
    $codec = new SessionCodec(Mix::processors());
    $session = withMacrosAndMoves($session);
    $tried = 0;
    for ($step = 0; $step < 800; ++$step) {
        $first = RandomEdits::next($session);
        $second = RandomEdits::next($session);
        [$a, $b] = [decoded($first, $session), decoded($second, $session)];
        if ($a === null || $b === null || overlapping($a[1], $b[1])) {
            continue;
        }
        try {
            $afterA = $a[0]->apply($session);
            $afterB = $b[0]->apply($session);
            if (parts($afterA) !== parts($session) || parts($afterB) !== parts($session)) {
                continue;
            }
            $afterwards = [decoded($second, $afterA), decoded($first, $afterB)];
            [$one, $other] = [$afterwards[0] === null ? null : $afterwards[0][0]->apply($afterA), $afterwards[1] === null ? null : $afterwards[1][0]->apply($afterB)];
        } catch (Refusal) {
            continue;
        }
        // A rule may refuse the later one, whichever that is; it may not do so in one order only and change things in the other.
        if ($one === null || $other === null) {
            continue;
        }
        ++$tried;
        expect($codec->encode($one) === $codec->encode($other))->toBeTrue(json_encode([$first, $second]) ?: '');
    }
    expect($tried)->toBeGreaterThan(20);
})->with(range(2001, 2012));
