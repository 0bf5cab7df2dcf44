<?php

declare(strict_types=1);

namespace Tests\Attack;

use Hafen\Audio\AudioFormat;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Tests\Support\Signal;

/**
 * Kills processes of a running Hafen while it edits, renders, freezes, prints, measures, predicts and imports. What was acknowledged must be there, what
 * was begun must end: done and right to the bit, or with a message.
 */
final class KillAttack
{
    /** Seconds in which everything that was begun has to end. */
    private const PATIENCE = 300;

    private Outcome $outcome;

    /** @var list<string> */
    private array $renders = [];

    /** @var array<string, int> frames of each import */
    private array $imports = [];

    /** @var array<string, string> by the id of each batch of freezes or prints: the name its track gets; empty for a freeze */
    private array $batches = [];

    private ?float $acknowledged = null;

    private function __construct(private readonly Http $http, private readonly Processes $processes, private readonly string $data, private readonly int $edited, private readonly string $channel, private readonly int $rendered)
    {
        $this->outcome = new Outcome('kills');
    }

    /**
     * @param  int  $edited  session that is edited, measured and predicted
     * @param  string  $channel  of it, whose fader is moved
     * @param  int  $rendered  session that is rendered, and stays as it is
     */
    public static function run(int $kills, Http $http, Processes $processes, string $data, int $edited, string $channel, int $rendered): Outcome
    {
        $attack = new self($http, $processes, $data, $edited, $channel, $rendered);
        $reference = $attack->reference();
        for ($i = 0; $i < $kills; ++$i) {
            $attack->begin($i);
            $attack->edit($i);
            usleep(mt_rand(0, 500_000));
            $kind = Processes::KINDS[$i % 3 === 0 ? 0 : mt_rand(0, count(Processes::KINDS) - 1)];
            if ($processes->kill($kind) !== null) {
                $attack->outcome->tried();
                $attack->outcome->note("of a {$kind}");
            }
            $attack->look();
        }
        $attack->settle($reference);

        return $attack->outcome;
    }

    /** The sound of a render nothing disturbed. */
    private function reference(): string
    {
        $id = $this->render();
        for ($i = 0; $i < 600 && $this->http->json('GET', "renders/{$id}")[1]['status'] !== 'done'; ++$i) {
            usleep(100_000);
        }

        return (string) sha1_file("{$this->data}/renders/{$id}.wav");
    }

    private function render(): ?string
    {
        [$status, $answer] = $this->http->json('POST', "sessions/{$this->rendered}/renders", ['format' => '32f']);

        return $status === 202 ? $answer['id'] : null;
    }

    private function begin(int $i): void
    {
        match ($i % 6) {
            0 => $this->renders = [...$this->renders, ...array_filter([$this->render()])],
            1 => $this->http->json('POST', "sessions/{$this->edited}/survey", (object) []),
            2 => $this->import($i),
            3 => $this->batch('freezes', ['tail' => $i / 10], ''),
            // Without a tail: it would make the session longer, and freezes whose tails were cut stale.
            4 => $this->batch('prints', ['tap' => 'pre-fader', 'name' => "Attack {$i}", 'tail' => 0], "Attack {$i}"),
            default => $this->http->json('POST', "sessions/{$this->rendered}/plans", ['aim' => ['figure' => 'peak', 'level' => -6.0 - $i / 100], 'plans' => [['remedies' => ['trim-main']], ['remedies' => ['lower-faders']]]]),
        };
    }

    /** @param  array<string, mixed>  $wish */
    private function batch(string $what, array $wish, string $track): void
    {
        [$status, $batch] = $this->http->json('POST', "sessions/{$this->edited}/{$what}", ['channels' => [$this->channel], ...$wish]);
        if ($status === 202) {
            $this->batches[$batch['id']] = $track;
        }
    }

    private function import(int $i): void
    {
        $path = "{$this->data}/attack.wav";
        $writer = WavWriter::create($path, new AudioFormat(44100, 1, SampleFormat::Float32));
        $writer->write([Signal::noise(200_000, 100 + $i, 0.5)]);
        $writer->close();
        $bytes = (string) file_get_contents($path);
        [$status, $upload] = $this->http->json('POST', 'uploads', ['name' => "Take {$i}.wav", 'bytes' => strlen($bytes)]);
        if ($status !== 201) {
            return;
        }
        $this->http->send('PUT', "/api/uploads/{$upload['id']}?offset=0", $bytes);
        [$status, $media] = $this->http->json('POST', "uploads/{$upload['id']}/finish", ['sampleRate' => 48000]);
        if ($status === 201) {
            $this->imports[$media['id']] = 200_000;
        }
    }

    private function edit(int $i): void
    {
        [$status, $state] = $this->http->json('GET', "sessions/{$this->edited}");
        if ($status !== 200) {
            return;
        }
        $gain = -1.0 - ($i % 500) / 10;
        [$status] = $this->http->json('POST', "sessions/{$this->edited}/edits", ['base' => $state['change'], 'edit' => ['type' => 'set-fader', 'channels' => [$this->channel], 'gain' => $gain]]);
        if ($status === 200) {
            $this->acknowledged = $gain;
        } elseif ($status >= 500 && $status !== 503) {
            $this->outcome->broke('faults', "edit answered {$status}");
        } else {
            // No answer: it may have been stored or not.
            $this->acknowledged = null;
        }
    }

    /** The server answers again within seconds, and what was acknowledged is there. */
    private function look(): void
    {
        for ($end = microtime(true) + 10; microtime(true) < $end; usleep(100_000)) {
            [$status, $state] = $this->http->json('GET', "sessions/{$this->edited}");
            if ($status === 200) {
                if (! isset($state['document'])) {
                    $this->outcome->broke('wrong', 'an answer of 200 was cut off');

                    return;
                }
                $fader = array_column($state['document']['channels'], 'fader', 'id')[$this->channel];
                if ($this->acknowledged !== null && abs($fader - $this->acknowledged) > 1e-9) {
                    $this->outcome->broke('lost', "the fader is at {$fader}, {$this->acknowledged} was acknowledged");
                }

                return;
            }
            if ($status !== 0 && $status !== 503) {
                $this->outcome->broke('faults', "a session answered {$status}");
            }
        }
        $this->outcome->broke('stuck', 'the server did not answer for 10 s');
    }

    private function settle(string $reference): void
    {
        for ($end = microtime(true) + self::PATIENCE; microtime(true) < $end; sleep(1)) {
            if ($this->open() === []) {
                break;
            }
        }
        foreach ($this->open() as $what) {
            $this->outcome->broke('stuck', $what);
        }
        foreach ($this->renders as $id) {
            [, $render] = $this->http->json('GET', "renders/{$id}");
            $file = "{$this->data}/renders/{$id}.wav";
            if ($render['status'] === 'done') {
                $this->outcome->note('renders done');
                if (sha1_file($file) !== $reference) {
                    $this->outcome->broke('wrong', "render {$id} is not the same to the bit");
                }
            } else {
                $this->outcome->note('renders ended with a message');
                if (($render['message'] ?? '') === '' || is_file($file)) {
                    $this->outcome->broke('lost', "render {$id} ended as {$render['status']} without a message, or left a file");
                }
            }
        }
        $this->settleBatches();
        foreach ($this->imports as $id => $frames) {
            [, $media] = $this->http->json('GET', "media/{$id}?sampleRate=44100");
            $this->outcome->note($media['status'] === 'ready' ? 'imports done' : 'imports ended with a message');
            $prepared = "{$this->data}/media/{$id}.48000.wav";
            if ($media['status'] === 'ready' && ($media['length'] !== $frames || ! is_file($prepared) || WavReader::open($prepared)->frames() !== (int) ceil($frames * 48000 / 44100))) {
                $this->outcome->broke('wrong', "import {$id} is not whole");
            }
        }
    }

    /** What was done is in the session, once; what was not is not, and says why. */
    private function settleBatches(): void
    {
        [, $state] = $this->http->json('GET', "sessions/{$this->edited}");
        $names = array_count_values(array_column($state['document']['channels'], 'name'));
        foreach ($this->batches as $id => $track) {
            [, $batch] = $this->http->json('GET', "batches/{$id}");
            $isDone = $batch['status'] === 'done';
            $this->outcome->note(($track === '' ? 'freezes' : 'prints').($isDone ? ' done' : ' ended with a message'));
            if (! $isDone && ($batch['message'] ?? '') === '') {
                $this->outcome->broke('lost', "batch {$id} ended as {$batch['status']} without a message");
            }
            if ($track !== '' && ($names[$track] ?? 0) !== ($isDone ? 1 : 0)) {
                $this->outcome->broke('wrong', "{$track} is there ".($names[$track] ?? 0).' times');
            }
            if ($track === '' && $isDone && ($state['frozen'][$this->channel] ?? null) !== ['stale' => false, 'playable' => true]) {
                $this->outcome->broke('wrong', "{$this->channel} is not frozen as it was");
            }
        }
        if (glob("{$this->data}/renders/print-*") !== []) {
            $this->outcome->note('unfinished prints wait for the sweep');
        }
    }

    /** @return list<string> what has not ended */
    private function open(): array
    {
        $open = [];
        foreach ($this->renders as $id) {
            $status = $this->http->json('GET', "renders/{$id}")[1]['status'] ?? 'unknown';
            if (! in_array($status, ['done', 'failed', 'stopped', 'refused'], true)) {
                $open[] = "render {$id} is {$status}";
            }
        }
        foreach (array_keys($this->batches) as $id) {
            $status = $this->http->json('GET', "batches/{$id}")[1]['status'] ?? 'unknown';
            if (! in_array($status, ['done', 'failed', 'stopped'], true)) {
                $open[] = "batch {$id} is {$status}";
            }
        }
        foreach (array_keys($this->imports) as $id) {
            $status = $this->http->json('GET', "media/{$id}")[1]['status'] ?? 'unknown';
            if (! in_array($status, ['ready', 'failed'], true)) {
                $open[] = "import {$id} is {$status}";
            }
        }
        $this->http->json('POST', "sessions/{$this->edited}/survey", (object) []);
        $survey = $this->http->json('GET', "sessions/{$this->edited}/survey")[1];
        if (($survey['running'] ?? null) !== null) {
            $open[] = 'the survey runs';
        }

        return $open;
    }
}
