<?php

declare(strict_types=1);

use Hafen\Audio\AudioFormat;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Demo\FerryTerminal;
use Hafen\Document\SessionCodec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** @return array{int, string, string} status, stdout, stderr */
function hafen(string ...$words): array
{
    $process = proc_open([PHP_BINARY, __DIR__.'/../../bin/hafen', ...$words], [1 => ['pipe', 'w'], 2 => ['pipe', 'w']], $pipes);
    $out = (string) stream_get_contents($pipes[1]);
    $error = (string) stream_get_contents($pipes[2]);

    return [proc_close($process), $out, $error];
}

beforeEach(function (): void {
    $this->folder = sys_get_temp_dir().'/hafen-command-'.bin2hex(random_bytes(6));
    mkdir($this->folder);
    $writer = WavWriter::create("{$this->folder}/cello.wav", new AudioFormat(48000, 1, SampleFormat::Float32));
    $writer->write([Signal::noise(48000, 3, 0.8)]);
    $writer->close();
    $session = Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'parametric-eq', ['bell-1-gain' => 6.0]), Mix::insert('i2', 'limiter', ['ceiling' => -3.0])])->withFader(-6.0),
    ]);
    $json = (new SessionCodec(ProcessorCatalogue::standard()))->encode($session);
    $this->document = "{$this->folder}/session.json";
    file_put_contents($this->document, str_replace('"file":"cello"', '"file":"cello.wav"', $json));
});

afterEach(function (): void {
    exec('rm -rf '.escapeshellarg($this->folder));
});

it('validates', function (): void {
    expect(hafen('validate', $this->document)[0])->toBe(0);
    file_put_contents($this->document, str_replace('"pan":0.0', '"pan":3.0', (string) file_get_contents($this->document)));
    [$status, , $error] = hafen('validate', $this->document);
    expect($status)->toBe(1)->and($error)->toStartWith('/channels/0/pan: Found 3')->and(substr_count($error, "\n"))->toBe(1);
});

it('renders a range of any tap in any format', function (): void {
    $out = "{$this->folder}/out.wav";
    expect(hafen('render', $this->document, '--out', $out, '--bits', '32f', '--tap', 'cello:pre-fader', '--from', '1000', '--to', '3000', '--tail', '0.01')[0])->toBe(0);
    $reader = WavReader::open($out);
    expect($reader->frames())->toBe(2480)->and($reader->channels())->toBe(2)->and($reader->header->format->samples)->toBe(SampleFormat::Float32)
        ->and($reader->header->broadcast?->timeReference)->toBe(1000)
        ->and(Signal::peak($reader->read(0, 2480)[0]))->toBeLessThanOrEqual(10 ** (-3 / 20) + 1e-6);
    expect(hafen('render', $this->document, '--out', $out, '--bits', '16')[0])->toBe(0)
        ->and(WavReader::open($out)->header->format->samples)->toBe(SampleFormat::Int16);
});

// Source: sox reads the file and measures its peak; practice: after a -6 dB fader is 6 dB below before it.
it('agrees with sox on the level before and after a fader of -6 dB', function (): void {
    $peaks = [];
    foreach (['pre-fader', 'post-fader'] as $tap) {
        hafen('render', $this->document, '--out', "{$this->folder}/{$tap}.wav", '--bits', '32f', '--tap', "cello:{$tap}");
        $stat = Reference::run(['sox', "{$this->folder}/{$tap}.wav", '-n', 'stats'], 'sox');
        preg_match('/Pk lev dB\s+(-?[\d.]+)/', $stat, $found);
        $peaks[] = (float) $found[1];
    }
    // A mono channel at the centre leaves 3.01 dB a side behind at its pan.
    expect($peaks[0] - $peaks[1])->toEqualWithDelta(9.01, 0.02);
    $survey = json_decode(hafen('survey', $this->document, '--json')[1], true);
    expect($survey['channels'][0]['taps']['pre-fader']['peak'])->toEqualWithDelta($peaks[0], 0.01)
        ->and($survey['channels'][0]['taps']['post-fader']['peak'])->toEqualWithDelta($peaks[1], 0.01);
});

// Source: ffmpeg's astats measures the rendered file.
it('surveys RMS as ffmpeg does', function (): void {
    hafen('render', $this->document, '--out', "{$this->folder}/mix.wav", '--bits', '32f');
    $stats = Reference::run(['ffmpeg', '-hide_banner', '-i', "{$this->folder}/mix.wav", '-af', 'astats', '-f', 'null', '-'], 'ffmpeg');
    preg_match_all('/RMS level dB: (-?[\d.]+)/', $stats, $found);
    $survey = json_decode(hafen('survey', $this->document, '--json')[1], true);
    expect($survey['channels'][1]['taps']['post-fader']['rms'])->toEqualWithDelta((float) $found[1][0], 0.01)
        ->and($survey['channels'][1]['taps']['post-fader']['overs'])->toBe(0)
        ->and(array_keys($survey['channels'][0]['taps']))->toBe(['source', 'insert:i1', 'insert:i2', 'pre-fader', 'post-fader']);
});

it('lists processors', function (): void {
    $list = json_decode(hafen('processors', '--json')[1], true);
    expect(array_column($list, 'id'))->toHaveCount(58)->toContain('gain', 'compressor', 'convolution', 'pitch-correction')
        ->and(array_column($list, null, 'id')['compressor']['parameters'][0])->toMatchArray(['id' => 'threshold', 'unit' => 'dB', 'min' => -60.0, 'max' => 0.0, 'default' => -20.0])
        ->and(hafen('processors')[0])->toBe(0);
});

it('keeps the docs of the processors what the program does', function (): void {
    $folder = sys_get_temp_dir().'/hafen-docs-'.getmypid();
    expect(hafen('processors', '--docs', $folder)[0])->toBe(0);
    // Made anew by core/bin/hafen processors --docs docs.
    expect((string) file_get_contents("{$folder}/processors.md"))->toBe((string) file_get_contents(__DIR__.'/../../../docs/processors.md'));
    foreach (glob("{$folder}/processors/*.svg") ?: [] as $picture) {
        expect(simplexml_load_file($picture))->not->toBeFalse()->and(is_file(__DIR__.'/../../../docs/processors/'.basename($picture)))->toBeTrue();
    }
    exec('rm -rf '.escapeshellarg($folder));
});

it('tells refusals from wrong usage', function (int $status, string $says, string ...$words): void {
    $words = array_map(fn (string $word): string => str_replace('{folder}', $this->folder, $word), $words);
    [$got, , $error] = hafen(...$words);
    expect($got)->toBe($status)->and($error)->toContain($says);
})->with([
    'no command' => [2, 'Which command?'],
    'another command' => [2, 'no command "paint"', 'paint'],
    'no document' => [1, 'no readable document', 'validate', '{folder}/none.json'],
    'no output' => [2, 'needs --out', 'render', '{folder}/session.json'],
    'wrong bits' => [2, 'takes 16, 24 or 32f', 'render', '{folder}/session.json', '--out', '{folder}/o.wav', '--bits', '20'],
    'wrong tap' => [2, '--tap takes', 'render', '{folder}/session.json', '--out', '{folder}/o.wav', '--tap', 'cello:middle'],
    'no such channel' => [1, 'There is no tap "attic:source"', 'render', '{folder}/session.json', '--out', '{folder}/o.wav', '--tap', 'attic:source'],
    'a range that ends before it starts' => [1, 'Nothing to render', 'render', '{folder}/session.json', '--out', '{folder}/o.wav', '--from', '500', '--to', '400'],
    'a negative place' => [2, 'whole number', 'render', '{folder}/session.json', '--out', '{folder}/o.wav', '--from', '-5'],
    'nowhere to write' => [1, 'cannot be created', 'render', '{folder}/session.json', '--out', '/nowhere/o.wav'],
    'a full disk' => [1, 'disk is full', 'render', '{folder}/session.json', '--out', '/dev/full'],
    'no seconds to measure' => [2, 'more than 0 seconds', 'load', '{folder}/session.json', '--seconds', '0'],
    'seconds that are no number' => [2, 'seconds from 0 to 86400, not "soon"', 'load', '{folder}/session.json', '--seconds', 'soon'],
    'an unknown option' => [2, 'Unknown option', 'survey', '{folder}/session.json', '--colour'],
]);

it('measures what a session takes of a core, part by part, with the JIT', function (): void {
    [$status, $out] = hafen('load', $this->document, '--json', '--seconds', '0.5');
    $load = json_decode($out, true);
    expect($status)->toBe(0)
        ->and(array_column($load['channels'], 'name'))->toBe(['Cello', 'Main'])
        ->and(array_keys($load['channels'][0]['inserts']))->toBe(['i1', 'i2'])
        ->and($load['engine'] + array_sum(array_column($load['channels'], 'total')))->toEqualWithDelta($load['total'], 1e-9);
    foreach ($load['channels'] as $channel) {
        expect($channel['own'] + $channel['reading'] + array_sum($channel['inserts']))->toEqualWithDelta($channel['total'], 1e-9);
    }
    [$status, $out] = hafen('load', $this->document, '--seconds', '0.2');
    expect($status)->toBe(0)->and($out)->toContain('of a core', 'Cello', 'Limiter', 'reading, sums', 'gains, meters', 'engine');
});

it('ends quietly when nobody reads on', function (): void {
    exec(escapeshellarg(PHP_BINARY).' '.escapeshellarg(__DIR__.'/../../bin/hafen').' processors 2>&1 >/dev/full', $said, $status);
    expect($said)->toBe([])->and($status)->toBe(0);
});

it('names a missing sound file', function (): void {
    unlink("{$this->folder}/cello.wav");
    [$status, , $error] = hafen('render', $this->document, '--out', "{$this->folder}/o.wav");
    expect($status)->toBe(1)->and($error)->toContain('cello.wav: There is no readable file here.')->and(is_file("{$this->folder}/o.wav"))->toBeFalse();
});

it('converts files of another rate while it renders', function (): void {
    $writer = WavWriter::create("{$this->folder}/cello.wav", new AudioFormat(44100, 1, SampleFormat::Float32));
    $writer->write([Signal::sine(1000.0, 44100, 0.5, 44100)]);
    $writer->close();
    hafen('render', $this->document, '--out', "{$this->folder}/o.wav", '--bits', '32f', '--tap', 'cello:source', '--from', '12000', '--to', '36000');
    expect(Signal::amplitudeAt(WavReader::open("{$this->folder}/o.wav")->read(0, 24000)[0], 1000.0))->toEqualWithDelta(0.5, 0.001);
});

it('prints a whole path with its gains and latencies', function (): void {
    $session = (new FerryTerminal)->session(static fn (string $id): string => "{$id}.wav");
    file_put_contents($path = "{$this->folder}/ferry.json", (new SessionCodec(ProcessorCatalogue::standard()))->encode($session));
    [$status, $text] = hafen('path', $path, 'Wash');
    expect($status)->toBe(0)
        ->and($text)->toContain('Cello (track)')->toContain('send −16.0 dB after the fader -> Hall')->toContain('send −21.0 dB after the fader, waits 3072 samples (64.00 ms) -> Plate')
        ->toContain('Wash (return)  <-')->toContain('split (Dry 0.0 dB | Crush −9.0 dB [Compressor, Drive +12.0])')
        ->not->toContain('Cue Cello');
    [, $mermaid] = hafen('path', $path, 'plate', '--format', 'mermaid');
    [, $dot] = hafen('path', $path, 'plate', '--format=dot');
    expect($mermaid)->toStartWith("flowchart LR\n")->toContain('-->|"send −14.0 dB after the fader')
        ->and($dot)->toStartWith('digraph path {')->toContain('"plate" -> "wash" [label="output')
        ->and(substr_count($mermaid, '-->'))->toBe(substr_count($dot, '->'));
    $bass = $session->channel('bass') ?? throw new LogicException;
    file_put_contents($path, (new SessionCodec(ProcessorCatalogue::standard()))->encode($session->withChannel($bass->withAligned(false))));
    expect(hafen('path', $path, 'bass')[1])->toContain('latency 27 samples (0.56 ms), enters at 0, not aligned');
    [$status, , $error] = hafen('path', $path, 'attic');
    expect($status)->toBe(1)->and($error)->toContain('attic: There is no such channel. There are: accordion-left');
    expect(hafen('path', $path, 'plate', '--format', 'svg')[0])->toBe(2);
});

it('renders the taps of every kind of channel', function (): void {
    $document = json_decode((string) file_get_contents($this->document), true);
    $document['channels'][0]['output'] = 'reeds';
    $document['channels'][0]['sends'] = [['id' => 'n1', 'to' => 'plate'], ['id' => 'n2', 'to' => 'cue', 'tap' => 'pre-fader']];
    foreach (['reeds' => 'group', 'plate' => 'return', 'cue' => 'cue'] as $id => $kind) {
        $document['channels'][] = ['id' => $id, 'kind' => $kind, 'name' => $id];
    }
    file_put_contents($this->document, json_encode($document, JSON_PRESERVE_ZERO_FRACTION));
    foreach (['reeds:source', 'plate:pre-fader', 'cue', 'main:source'] as $tap) {
        [$status, $said, $error] = hafen('render', $this->document, '--out', "{$this->folder}/tap.wav", '--tap', $tap);
        expect($error)->toBe('')->and($status)->toBe(0)->and($said)->not->toContain('peak −∞');
    }
});

it('checks a session, and fails where a note is severe', function (): void {
    expect(hafen('check', $this->document))->toBe([0, "Test: nothing to note.\n", '']);
    $document = json_decode((string) file_get_contents($this->document), true);
    $document['channels'][1]['postInserts'] = [['type' => 'processor', 'id' => 'i9', 'processor' => 'limiter']];
    $document['channels'][] = ['id' => 'spare', 'kind' => 'group', 'name' => 'Spare'];
    file_put_contents($this->document, json_encode($document, JSON_PRESERVE_ZERO_FRACTION));
    [$status, $text] = hafen('check', $this->document);
    expect($status)->toBe(1)->and($text)->toContain('severe       The limiter on Main stands after the fader')->toContain('information  Nothing comes to Spare');
    [$status, $json] = hafen('check', $this->document, '--json');
    $notes = json_decode($json, true);
    expect($status)->toBe(1)->and($notes)->toHaveCount(2)->and($notes[0]['fix']['edit'])->toBe(['type' => 'move-insert', 'insert' => 'i9', 'channel' => 'main', 'row' => 'inserts']);
});

it('checks the sound as well when it is asked to', function (): void {
    $document = json_decode((string) file_get_contents($this->document), true);
    $document['channels'][0]['fader'] = 12.0;
    file_put_contents($this->document, json_encode($document, JSON_PRESERVE_ZERO_FRACTION));
    expect(hafen('check', $this->document)[0])->toBe(0);
    [$status, $text] = hafen('check', $this->document, '--survey');
    expect($status)->toBe(1)->and($text)->toContain('severe       Main clips at its output');
});

it('freezes into a session that renders the same, knows altered and stale freezes, and unfreezes', function (): void {
    [$status, $out] = hafen('freeze', $this->document, '--channels', 'cello', '--bits', '64f', '--out', "{$this->folder}/frozen-mix");
    expect($status)->toBe(0)->and($out)->toStartWith('Cello: frozen/');
    $document = "{$this->folder}/frozen-mix/session.json";
    hafen('render', $this->document, '--out', "{$this->folder}/live.wav", '--bits', '32f');
    hafen('render', $document, '--out', "{$this->folder}/frozen.wav", '--bits', '32f');
    expect(hash_file('sha256', "{$this->folder}/frozen.wav"))->toBe(hash_file('sha256', "{$this->folder}/live.wav"))
        ->and(hafen('check', $document)[1])->not->toContain('freeze');

    // Unfrozen it is what it was, from its own place.
    [$status] = hafen('unfreeze', $document, '--out', "{$this->folder}/again.json");
    expect($status)->toBe(0)->and(json_decode((string) file_get_contents("{$this->folder}/again.json")))->toEqual(json_decode((string) file_get_contents($this->document)));

    // A freeze of something else is stale.
    $changed = str_replace('"bell-1-gain":6.0', '"bell-1-gain":3.0', (string) file_get_contents($document));
    file_put_contents($document, $changed);
    [$status, $out] = hafen('check', $document);
    expect($status)->toBe(1)->and($out)->toContain('Cello plays a freeze of what it was');

    // One sample altered: the channel plays itself.
    $file = (string) glob("{$this->folder}/frozen-mix/frozen/*.wav")[0];
    file_put_contents($file, substr_replace((string) file_get_contents($file), "\x01", 4000, 1));
    expect(hafen('check', $document)[1])->toContain('its file is gone or was altered');
    expect(hafen('render', $document, '--out', "{$this->folder}/fallen-back.wav", '--bits', '32f')[1])->toContain('was worked live: The file is named by the SHA-256');
    file_put_contents($this->document, str_replace('"bell-1-gain":6.0', '"bell-1-gain":3.0', (string) file_get_contents($this->document)));
    hafen('render', $this->document, '--out', "{$this->folder}/live.wav", '--bits', '32f');
    expect(hash_file('sha256', "{$this->folder}/fallen-back.wav"))->toBe(hash_file('sha256', "{$this->folder}/live.wav"));
});

it('refuses to freeze what cannot be frozen', function (array $words, string $said): void {
    [$status, , $error] = hafen('freeze', $this->document, ...[...$words, '--out', "{$this->folder}/x"]);
    expect($status)->toBeGreaterThan(0)->and($error)->toContain($said)->and(is_dir("{$this->folder}/x"))->toBeFalse();
})->with([
    'main' => [['--channels', 'main'], 'Main cannot be frozen'],
    'nobody' => [['--channels', 'cello,nobody'], 'no channel "nobody"'],
    'bits' => [['--channels', 'cello', '--bits', '16'], '--bits takes 32f or 64f'],
    'tail' => [['--channels', 'cello', '--tail', 'long'], '--tail takes seconds'],
    'none' => [['--channels', ','], '--channels takes one or several'],
]);

it('prints a channel, and stems with a list', function (): void {
    [$status, $out] = hafen('print', $this->document, '--channel', 'cello', '--tap', 'pre-fader', '--bits', '32f', '--tail', '0', '--out', "{$this->folder}/print.wav");
    hafen('render', $this->document, '--tap', 'cello:pre-fader', '--bits', '32f', '--out', "{$this->folder}/render.wav");
    $print = WavReader::open("{$this->folder}/print.wav");
    expect($status)->toBe(0)->and($out)->toContain('48000 samples, mono')->and($print->read(0, 48000)[0])->toBe(WavReader::open("{$this->folder}/render.wav")->read(0, 48000)[0]);
    [$status] = hafen('stems', $this->document, '--out', "{$this->folder}/stems", '--name', '{channel} {tap}', '--tail', '0');
    expect($status)->toBe(0)->and((string) file_get_contents("{$this->folder}/stems/stems.txt"))->toBe("file\tchannel\ttap\tsamples\nCello post-fader.wav\tCello\tpost-fader\t48000\n")
        ->and(WavReader::open("{$this->folder}/stems/Cello post-fader.wav")->frames())->toBe(48000);
    // Twice the same channel is that channel once.
    hafen('print', $this->document, '--channel', 'cello,cello', '--tap', 'pre-fader', '--tail', '0', '--out', "{$this->folder}/once.wav");
    expect(WavReader::open("{$this->folder}/once.wav")->read(0, 48000)[0])->toBe($print->read(0, 48000)[0]);
    [$status] = hafen('stems', $this->document, '--out', "{$this->folder}/wet", '--returns', 'with-senders', '--name', '{channel}', '--tail', '0');
    expect($status)->toBe(0)->and((string) file_get_contents("{$this->folder}/wet/stems.txt"))->toBe("file\tchannel\ttap\tsamples\nCello.wav\tCello\tto the main, with returns\t48000\n")
        ->and(hafen('stems', $this->document, '--out', "{$this->folder}/wet", '--returns', 'with-senders', '--tap', 'source')[0])->toBe(2)
        ->and(hafen('stems', $this->document, '--out', "{$this->folder}/wet", '--returns', 'never')[0])->toBe(2);
    expect(hafen('print', $this->document, '--channel', 'nobody', '--out', "{$this->folder}/x.wav")[2])->toContain('There is no such channel')
        ->and(hafen('print', $this->document, '--channel', 'cello', '--tap', 'middle', '--out', "{$this->folder}/x.wav")[0])->toBe(2);
});

it('lists ports, pings loops and writes recall sheets, and renders through hardware faster only when asked to', function (): void {
    $folder = sys_get_temp_dir().'/hafen-ports-'.bin2hex(random_bytes(4));
    mkdir($folder);
    (new Hafen\Demo\FerryTerminal)->write('cello', "{$folder}/cello.wav");
    $demo = (new Hafen\Demo\FerryTerminal)->session(static fn (string $id): string => 'cello.wav');
    file_put_contents("{$folder}/session.json", (new SessionCodec(ProcessorCatalogue::standard()))->encode($demo->withLength(24000)));
    $path = "{$folder}/session.json";
    expect(hafen('inputs', $path)[1])->toContain('in  4  Spring tank')->toContain('loop Spring tank')->toContain('out 7  Spring tank');
    $ports = json_decode(hafen('inputs', $path, '--json')[1], true);
    expect($ports['inputs'][0])->toBe(['port' => 1, 'name' => 'Voice', 'plug' => 'invented singer', 'channels' => ['Voice']]);
    $ping = json_decode(hafen('ping', $path, 'l1', '--json', '--offline-hardware')[1], true);
    // 300 samples of the interface, 3.15 ms of the unit; its level is trimmed away.
    expect($ping['samples'])->toEqualWithDelta(451.2, 0.1)->and($ping['level'])->toEqualWithDelta(0.0, 0.1)->and($ping['isInverted'])->toBeFalse();
    expect(hafen('ping', $path, 'l9')[2])->toContain('There is no hardware loop "l9"');
    expect(hafen('recall', $path)[1])->toContain('on Cello')->toContain('Dwell          5')->toContain('Notes: Springs');
    expect(hafen('recall', $path, '--html')[1])->toStartWith('<!doctype html>')->toContain('<svg');
    $start = microtime(true);
    [$status, , $error] = hafen('render', $path, '--out', "{$folder}/o.wav", '--bits', '32f');
    // Half a second of session, and what comes before it: it does not run faster than the clock.
    expect($status)->toBe(0)->and($error)->toContain('goes through Spring tank and takes real time')->and(microtime(true) - $start)->toBeGreaterThan(0.5);
    expect(hafen('render', $path, '--out', "{$folder}/p.wav", '--bits', '32f', '--offline-hardware')[2])->toBe('')
        ->and(md5_file("{$folder}/p.wav"))->toBe(md5_file("{$folder}/o.wav"));
    array_map(unlink(...), glob("{$folder}/*"));
    rmdir($folder);
});

it('puts the notes of a MIDI file into a session, gives them back as one, and renders them', function (): void {
    $folder = sys_get_temp_dir().'/hafen-notes-'.bin2hex(random_bytes(4));
    mkdir($folder);
    $path = "{$folder}/session.json";
    file_put_contents($path, (new SessionCodec(ProcessorCatalogue::standard()))->encode(Hafen\Session\BlankSession::named('Empty')));
    file_put_contents("{$folder}/song.mid", Hafen\Note\MidiWriter::write([['Bells', [new Hafen\Note\NoteClip('c1', 0, 3840, [new Hafen\Note\Note(0, 960, 72, 100)])]]], 90.0));
    [$status, $said] = hafen('notes', "{$folder}/song.mid", '--into', $path);
    expect($status)->toBe(0)->and($said)->toContain('Bells: 1 notes.')->toContain('The file plays at 90 BPM; the notes follow the session, which has 120.')
        ->and(hafen('validate', $path)[0])->toBe(0)
        ->and(hafen('notes', $path, '--channel', 'bells', '--out', "{$folder}/back.mid")[0])->toBe(0)
        ->and(Hafen\Note\MidiReader::read((string) file_get_contents("{$folder}/back.mid"))->parts[0]->notes)->toEqual([new Hafen\Note\Note(0, 960, 72, 100)])
        ->and(hafen('render', $path, '--out', "{$folder}/o.wav", '--bits', '32f')[0])->toBe(0)->and(filesize("{$folder}/o.wav"))->toBeGreaterThan(96000 * 8);
    file_put_contents("{$folder}/broken.mid", 'MThd');
    $before = file_get_contents($path);
    expect(hafen('notes', "{$folder}/broken.mid", '--into', $path)[2])->toContain('at byte 4 the file ends too soon')
        ->and(hafen('notes', $path, '--channel', 'main', '--out', "{$folder}/x.mid")[0])->toBe(2)->and(hafen('notes', $path, '--channel', 'nobody', '--out', "{$folder}/x.mid")[2])->toContain('There is no such channel')
        ->and(hafen('notes', $path, '--channel', 'bells', '--out', "{$folder}/none/x.mid")[0])->not->toBe(0)->and(file_get_contents($path))->toBe($before);
    array_map(unlink(...), glob("{$folder}/*"));
    rmdir($folder);
});
