<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\AddressNumber;
use App\Listening\ListenerSeats;
use App\Listening\ListeningStream;
use App\Models\Listening;
use App\Models\StoredSession;
use App\Sessions\SessionBook;
use App\Takes\RecordWish;
use Hafen\Audio\SampleLoops;
use Hafen\Document\JsonNode;
use Hafen\Document\NoteCodec;
use Hafen\Document\SessionCodec;
use Hafen\Engine\Loop;
use Hafen\Engine\Tap;
use Hafen\Headroom\Sweep;
use Hafen\Note\HeldKeys;
use Hafen\Note\NoteControl;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Session;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** A listening is what a listener wants; the stream follows it while it runs. */
final readonly class ListeningController
{
    /** Samples before the session's start a count-in can begin. */
    private const LONGEST_COUNT_IN = 1 << 24;

    public function __construct(private SessionBook $book)
    {
    }

    public function store(Request $request, StoredSession $session): JsonResponse
    {
        Listening::query()->where('created_at', '<', now()->subDay())->delete();
        $options = $this->options(JsonBody::of($request), $session);
        $listening = Listening::query()->create(['session_id' => $session->id, ...$options]);
        $base = config('hafen.listen_url');

        return new JsonResponse([
            'id' => $listening->id,
            'stream' => (is_string($base) ? rtrim($base, '/') : '')."/api/listenings/{$listening->id}/stream",
        ], 201);
    }

    public function update(Request $request, Listening $listening): JsonResponse
    {
        $listening->update($this->options(JsonBody::of($request), StoredSession::query()->findOrFail($listening->session_id)));

        return new JsonResponse(['id' => $listening->id]);
    }

    public function stream(Request $request, Listening $listening, ListeningStream $stream, ListenerSeats $seats): StreamedResponse
    {
        $seat = $seats->take();
        $from = AddressNumber::of($request, 'from', 0, -self::LONGEST_COUNT_IN, SessionCodec::LONGEST);
        $isSoon = AddressNumber::of($request, 'soon', 0, 0, 1) === 1;

        return new StreamedResponse(static function () use ($stream, $listening, $from, $isSoon, $seat): void {
            SampleLoops::liftTimeLimits();
            // Who closes the browser keeps what was recorded: the stream ends itself once nobody listens.
            ignore_user_abort(true);
            while (ob_get_level() > 0) {
                ob_end_flush();
            }
            foreach ($stream->frames($listening, $from, $isSoon) as $frame) {
                echo $frame;
                flush();
            }
            fclose($seat);
        }, 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'no-store', 'X-Accel-Buffering' => 'no']);
    }

    /** @return array<string, mixed> */
    private function options(JsonNode $body, StoredSession $session): array
    {
        $body->keys([], ['tap', 'loop', 'compare', 'side', 'stopped', 'sweep', 'watch', 'record', 'metered', 'armed', 'quick', 'standing', 'interface', 'punch', 'beside', 'played', 'click']);
        $options = [];
        if ($body->has('tap')) {
            $tap = $body->get('tap');
            if ($tap->value !== null && Tap::fromString($tap->text(1, 140)) === null) {
                throw $tap->expected('a tap such as "cello:pre-fader"');
            }
            $options['tap'] = $tap->value;
        }
        if ($body->has('loop')) {
            $loop = $body->get('loop');
            if ($loop->value === null) {
                $options += ['loop_start' => null, 'loop_end' => null];
            } else {
                $loop->keys(['start', 'end']);
                $start = $loop->get('start')->integer(0, 1 << 40);
                $shortest = Loop::shortest($this->book->open($session)->sampleRate);
                $options += ['loop_start' => $start, 'loop_end' => $loop->get('end')->integer($start + $shortest, 1 << 40)];
            }
        }
        if ($body->has('compare')) {
            $compare = $body->get('compare');
            $options['compare'] = match (true) {
                $compare->value === null => null,
                $compare->has('plan') => ['plan' => $compare->keys(['plan'])->get('plan')->integer(1, PHP_INT_MAX)],
                $compare->has('parameters') => ['insert' => $compare->keys(['insert', 'parameters'])->get('insert')->id(), 'parameters' => self::plain($compare->get('parameters'))],
                $compare->has('insert') => ['insert' => $compare->keys(['insert'])->get('insert')->id()],
                default => ['row' => $compare->keys(['row'])->get('row')->id()],
            };
        }
        if ($body->has('sweep')) {
            $sweep = $body->get('sweep');
            $options['sweep'] = match (true) {
                $sweep->value === null => null,
                $sweep->has('insert') => ['insert' => $sweep->keys(['insert', 'band'])->get('insert')->id(), 'band' => $sweep->get('band')->id()],
                default => [
                    'channel' => $sweep->keys(['channel', 'frequency'])->get('channel')->id(),
                    'frequency' => $sweep->get('frequency')->number(Sweep::LOWEST, Sweep::HIGHEST, 'Hz'),
                ],
            };
        }
        if ($body->has('watch')) {
            $watch = $body->get('watch');
            $options['watch'] = $watch->value === null ? null : $watch->id();
        }
        if ($body->has('record')) {
            $record = $body->get('record');
            $options['record'] = $record->value === null ? null : self::wishes($record, $this->book->open($session));
        }
        if ($body->has('punch')) {
            $punch = $body->get('punch');
            $options['punch'] = $punch->value === null ? null : self::punch($punch->keys(['from'], ['to']));
        }
        if ($body->has('metered')) {
            $metered = $body->get('metered');
            $options['metered'] = $metered->value === null ? null : $metered->ids(SessionCodec::MOST_CHANNELS);
        }
        if ($body->has('played')) {
            $played = $body->get('played');
            $options['played'] = $played->value === null ? null : self::played($played->keys(['channel', 'keys'], ['controls']));
        }
        if ($body->has('armed')) {
            $options['armed'] = $body->get('armed')->ids(InterfacePorts::INPUTS);
        }
        if ($body->has('quick')) {
            $options['quick'] = $body->get('quick')->value === null ? null : $body->get('quick')->number(0.0, 1000.0, 'ms');
        }
        foreach (['standing', 'interface', 'beside', 'click'] as $switch) {
            if ($body->has($switch)) {
                $options[$switch] = $body->get($switch)->boolean();
            }
        }
        if ($body->has('side')) {
            $options['side'] = $body->get('side')->integer(1, 2);
        }
        if ($body->has('stopped')) {
            $options['stopped'] = $body->get('stopped')->boolean();
        }

        return $options;
    }

    /** @return array{from: int, to: ?int} */
    private static function punch(JsonNode $punch): array
    {
        $from = $punch->get('from')->integer(0, SessionCodec::LONGEST);
        $to = $punch->optional('to');

        return ['from' => $from, 'to' => $to?->value === null ? null : $to->integer($from + 1, SessionCodec::LONGEST)];
    }

    /** @return list<array{channel: string, tap: string}> of one wish, or of a list of them, each for a track of its own */
    private static function wishes(JsonNode $record, Session $session): array
    {
        $wishes = array_map(static fn (JsonNode $wish): array => RecordWish::of($wish, $session)->toArray(), is_array($record->value) ? $record->items(InterfacePorts::INPUTS) : [$record]);
        if (count(array_unique(array_column($wishes, 'channel'))) < count($wishes)) {
            throw $record->expected('one recording for each track');
        }

        return $wishes;
    }

    /** @return array<string, mixed> parameters as they came; they are checked when the insert is known */
    private static function plain(JsonNode $parameters): array
    {
        return array_map(static fn (JsonNode $value): mixed => $value->value, $parameters->entries());
    }

    /** @return array{channel: string, keys: list<array{int, int, int}>, controls: list<array{int, int}>} */
    private static function played(JsonNode $node): array
    {
        return [
            'channel' => $node->get('channel')->id(),
            'keys' => array_map(static function (JsonNode $key): array {
                $parts = $key->items(3);

                return count($parts) === 3
                    ? [$parts[0]->integer(0, 127), $parts[1]->integer(1, 127), $parts[2]->integer(0, 1 << 40)]
                    : throw $key->expected('a key as [key, velocity, number]');
            }, $node->get('keys')->items(HeldKeys::MOST)),
            'controls' => array_map(static function (JsonNode $control): array {
                $parts = $control->items(2);
                $number = count($parts) === 2 ? $parts[0]->integer(0, NoteControl::BEND) : throw $control->expected('a controller as [number, value]');

                return [$number, NoteCodec::value($number, $parts[1])];
            }, $node->optional('controls')?->items(NoteControl::BEND + 1) ?? []),
        ];
    }
}
