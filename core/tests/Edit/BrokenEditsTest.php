<?php

declare(strict_types=1);

use Hafen\Document\SessionCodec;
use Hafen\Refusal;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomEdits;
use Hafen\Tests\Support\RandomRouting;

require_once __DIR__.'/../Support/edited.php';

/** Something no field of an edit expects, or hardly any. */
function nonsense(): mixed
{
    return [
        null, true, false, 0, -1, 1e308, -1e308, 0.5, 2 ** 53, '', 'main', "a\nb", str_repeat('x', 5000), "\u{202E}", [], [[]], ['main', 'main'], [1, 2, 3], (object) [], ['type' => 'set-fader'],
        ['start' => -1, 'end' => -1], [['at' => 0, 'value' => 1e9]], '../../etc', 'hw:1-2', 'none',
    ][mt_rand(0, 24)];
}

/**
 * An edit with one thing wrong somewhere in it.
 *
 * @param  array<array-key, mixed>  $edit
 * @return array<array-key, mixed>
 */
function broken(array $edit): array
{
    $keys = array_keys($edit);
    $key = $keys[mt_rand(0, count($keys) - 1)];
    $choice = mt_rand(0, 5);
    if (is_array($edit[$key]) && $edit[$key] !== [] && $choice < 3) {
        $edit[$key] = broken($edit[$key]);
    } elseif ($choice === 3) {
        unset($edit[$key]);
    } elseif ($choice === 4) {
        $edit['unheard-of'] = nonsense();
    } else {
        $edit[$key] = nonsense();
    }

    return $edit;
}

/**
 * Whether a JSON pointer leads to something in an edit, all but its last part.
 *
 * @param  array<array-key, mixed>  $edit
 */
function leadsTo(array $edit, string $pointer): bool
{
    $at = json_decode((string) json_encode(['edit' => $edit, ...$edit]), true);
    $parts = array_slice(explode('/', $pointer), 1);
    array_pop($parts);
    foreach ($parts as $part) {
        $key = str_replace(['~1', '~0'], ['/', '~'], $part);
        if (! is_array($at) || ! array_key_exists($key, $at)) {
            return false;
        }
        $at = $at[$key];
    }

    return true;
}

it('makes a valid document of a broken edit, or says where it is wrong and what is allowed', function (int $seed): void {
    [$session] = RandomRouting::make($seed, 8);
    $codec = new SessionCodec(Mix::processors());
    mt_srand($seed);
    $refused = 0;
    for ($step = 0; $step < 300; ++$step) {
        $edit = broken(RandomEdits::next($session));
        if (mt_rand(0, 9) === 0) {
            $edit = broken($edit === [] ? ['type' => 'set-fader'] : $edit);
        }
        try {
            $after = edited($session, $edit);
            expect($codec->decode($codec->encode($after)))->toEqual($after);
        } catch (Refusal $refusal) {
            ++$refused;
            // Where it is wrong leads to a field of the edit, or to one that is missing there; the message is a sentence without words of PHP's own.
            $shown = (string) json_encode($edit)." -> {$refusal->line()}";
            expect($refusal->location)->not->toBe('', $shown)
                ->and(str_starts_with($refusal->location, '/') ? leadsTo($edit, $refusal->location) : true)->toBeTrue($shown)
                ->and($refusal->getMessage())->toMatch('/^[\p{Lu}"].*(\s\S+){2,}\.$/us', $shown)
                ->not->toContain('must be of type')->not->toContain('Undefined')->not->toContain('null given');
        }
    }
    expect($refused)->toBeGreaterThan(100);
})->with(range(1001, 1010));
