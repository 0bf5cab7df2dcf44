<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Audio\Decibel;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\SampleLoops;
use Hafen\Demo\FerryTerminal;
use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Engine\Compiler;
use Hafen\Engine\FolderLibrary;
use Hafen\Engine\LibraryAudioFiles;
use Hafen\Engine\Tap;
use Hafen\Metering\TapReading;
use Hafen\Pilot\Advice;
use Hafen\Pilot\Pilot;
use Hafen\Pilot\Severity;
use Hafen\Preset\PresetCodec;
use Hafen\Preset\ShippedPresets;
use Hafen\Printing\Renderer;
use Hafen\Printing\RenderOptions;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\ProcessorSpec;
use Hafen\Refusal;
use Hafen\Routing\SignalPath;
use Hafen\Session\Session;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyResult;

/**
 * The command line on session documents. Exit status 0: done; 1: refused, with one line on stderr naming the JSON pointer,
 * file or rule, or a check with severe notes; 2: wrong usage.
 */
final readonly class Application
{
    private const USAGE = <<<'TEXT'
        hafen validate SESSION.json
        hafen processors [--json] [--docs FOLDER]    --docs: writes processors.md and its pictures there
        hafen render SESSION.json --out FILE.wav [--bits 16|24|32f] [--tap CHANNEL:source|pre-fader|post-fader]
                     (also CHANNEL:insert:ID, CHANNEL:into:SPLIT, CHANNEL:branch:ID)
                     [--from SAMPLE] [--to SAMPLE] [--tail SECONDS]
        hafen survey SESSION.json [--json]
        hafen path SESSION.json CHANNEL [--format text|mermaid|dot]
        hafen check SESSION.json [--json] [--survey]    --survey: measures it, for what only the sound tells
        hafen demo FOLDER
        hafen self-check    every processor and a small session, with the JIT on and off: the same to the bit?
        TEXT;

    private ProcessorCatalogue $processors;

    private SessionCodec $codec;

    /**
     * @param  resource  $out
     * @param  resource  $error
     */
    public function __construct(private mixed $out, private mixed $error)
    {
        $this->processors = ProcessorCatalogue::standard();
        $this->codec = new SessionCodec($this->processors);
    }

    /** @param  list<string>  $words */
    public function run(array $words): int
    {
        try {
            // Whatever PHP complains of may have made sound or figures wrong.
            return SampleLoops::run(fn (): int => $this->obey($words));
        } catch (WrongUsage $wrong) {
            fwrite($this->error, $wrong->getMessage()."\n".self::USAGE."\n");

            return 2;
        } catch (Refusal $refusal) {
            fwrite($this->error, str_replace("\n", ' ', $refusal->line())."\n");

            return 1;
        }
    }

    /** @param  list<string>  $words */
    private function obey(array $words): int
    {
        $rest = array_slice($words, 1);
        if (($words[0] ?? '') === 'check') {
            return $this->check(Arguments::parse($rest, ['SESSION.json'], [], ['json', 'survey']));
        }
        match ($words[0] ?? '') {
            'validate' => $this->validate(Arguments::parse($rest, ['SESSION.json'])),
            'processors' => $this->listProcessors(Arguments::parse($rest, [], ['docs'], ['json'])),
            'render' => $this->render(Arguments::parse($rest, ['SESSION.json'], ['out', 'bits', 'tap', 'from', 'to', 'tail'])),
            'survey' => $this->survey(Arguments::parse($rest, ['SESSION.json'], [], ['json'])),
            'path' => $this->path(Arguments::parse($rest, ['SESSION.json', 'CHANNEL'], ['format'])),
            'demo' => $this->demo(Arguments::parse($rest, ['FOLDER'])),
            'self-check' => $this->selfCheck(Arguments::parse($rest, [], [], ['hashes'])),
            'help', '--help', '-h' => $this->say(self::USAGE),
            default => throw new WrongUsage(isset($words[0]) ? "There is no command \"{$words[0]}\"." : 'Which command?'),
        };

        return 0;
    }

    private function validate(Arguments $arguments): void
    {
        $session = $this->open($arguments->position(0));
        $this->say("{$session->name}: a valid session of ".count($session->channels).' channels.');
    }

    private function selfCheck(Arguments $arguments): void
    {
        $check = new SelfCheck($this->processors);
        if ($arguments->has('hashes')) {
            $this->say(json_encode(['jit' => self::hasJit(), 'hashes' => $check->hashes()], JSON_THROW_ON_ERROR));

            return;
        }
        [$with, $without] = [self::hashesIn('tracing'), self::hashesIn('disable')];
        if (! $with['jit']) {
            throw SelfCheckFailed::noJit();
        }
        $different = array_map(strval(...), array_keys(array_diff_assoc($with['hashes'], $without['hashes'])));
        if ($different !== [] || count($with['hashes']) !== count($without['hashes'])) {
            throw SelfCheckFailed::differs($different);
        }
        $this->say(count($with['hashes']).' of '.count($with['hashes']).' are the same to the bit with the JIT on and off.');
    }

    /**
     * The hashes as another PHP finds them.
     *
     * @return array{jit: bool, hashes: array<string, string>}
     */
    private static function hashesIn(string $jit): array
    {
        $process = proc_open(
            [PHP_BINARY, '-d', "opcache.jit={$jit}", dirname(__DIR__, 2).'/bin/hafen', 'self-check', '--hashes'],
            [['file', '/dev/null', 'r'], ['pipe', 'w'], ['pipe', 'w']],
            $pipes,
        );
        if ($process === false) {
            throw SelfCheckFailed::didNotRun('no process could be started.');
        }
        $out = (string) stream_get_contents($pipes[1]);
        $said = trim((string) stream_get_contents($pipes[2]));
        proc_close($process);
        $answer = json_decode($out, true);
        if (! is_array($answer) || ! is_bool($answer['jit'] ?? null) || ! is_array($answer['hashes'] ?? null)) {
            throw SelfCheckFailed::didNotRun($said === '' ? 'it ended without a word.' : $said);
        }

        /** @var array{jit: bool, hashes: array<string, string>} $answer */
        return $answer;
    }

    private static function hasJit(): bool
    {
        $status = function_exists('opcache_get_status') ? opcache_get_status(false) : false;

        return is_array($status) && is_array($status['jit'] ?? null) && ($status['jit']['on'] ?? false) === true;
    }

    private function listProcessors(Arguments $arguments): void
    {
        $specs = $this->processors->specs();
        $folder = $arguments->text('docs');
        if ($folder !== null) {
            $files = (new ProcessorDocs($this->processors, new ShippedPresets(new PresetCodec($this->codec))))->files();
            foreach ($files as $path => $text) {
                if (! is_dir(dirname("{$folder}/{$path}"))) {
                    mkdir(dirname("{$folder}/{$path}"), recursive: true);
                }
                file_put_contents("{$folder}/{$path}", $text);
            }
            $this->say(count($files).' files written.');

            return;
        }
        if ($arguments->has('json')) {
            $this->say(json_encode(
                array_map(static fn (ProcessorSpec $spec): array => $spec->toArray(), $specs),
                JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES,
            ));

            return;
        }
        foreach ($specs as $spec) {
            $this->say(sprintf('%-14s %-14s %s', $spec->id, $spec->name, $spec->purpose));
            $this->say('    '.implode(', ', array_map(static fn (ParameterSpec $parameter): string => $parameter->id, $spec->parameters)));
        }
    }

    private function render(Arguments $arguments): void
    {
        $out = $arguments->text('out') ?? throw new WrongUsage('render needs --out FILE.wav.');
        $bits = $arguments->text('bits') ?? '24';
        $format = in_array($bits, ['16', '24', '32f'], true) ? SampleFormat::from($bits) : throw new WrongUsage("--bits takes 16, 24 or 32f, not \"{$bits}\".");
        $tap = $arguments->text('tap');
        $options = new RenderOptions(
            $format,
            $tap === null ? null : (Tap::fromString($tap) ?? throw new WrongUsage("--tap takes CHANNEL:source, CHANNEL:pre-fader or CHANNEL:post-fader, not \"{$tap}\".")),
            $arguments->integer('from') ?? 0,
            $arguments->integer('to'),
            $arguments->seconds('tail') ?? 0.0,
        );
        $path = $arguments->position(0);
        $result = (new Renderer($this->compiler($path)))->render($this->open($path), $out, $options);
        $this->say(sprintf('%s: %d samples, peak %s', $out, $result->frames, Decibel::text(Decibel::fromGain($result->peak), 'dBFS', true)));
        if ($result->clipped > 0) {
            $this->say("{$result->clipped} samples clipped, the first near sample {$result->firstClip}. --bits 32f keeps them.");
        }
        foreach ($result->faults as $fault) {
            $this->say("Channel {$fault->channel} was silenced from sample {$fault->position}: it put out something that is not a number.");
        }
    }

    private function survey(Arguments $arguments): void
    {
        $path = $arguments->position(0);
        $session = $this->open($path);
        $result = $this->measured($session, $path);
        if (! $arguments->has('json')) {
            foreach ($result->taps as $key => $reading) {
                $this->say(sprintf(
                    '%-40s peak %12s  RMS %12s  overs %d',
                    $key,
                    Decibel::text($reading->peakLevel(), 'dBFS', true),
                    Decibel::text($reading->rmsLevel(), 'dBFS', true),
                    $reading->overs,
                ));
            }

            $this->say(sprintf(
                'Main: %s, range %s, true peak %s',
                self::figure($result->loudness()?->integrated, 'LUFS'),
                self::figure($result->loudness()?->range, 'LU', false),
                self::figure($result->truePeak(), 'dBTP'),
            ));
            $loudest = $result->loudest();
            if ($loudest !== null) {
                $this->say(sprintf(
                    'What fills it at sample %d, before its inserts: %s',
                    $loudest->position,
                    implode(', ', array_map(
                        static fn (int|string $id, float $share): string => sprintf('%s %d %%', $session->channel((string) $id)->name ?? $id, (int) round(100 * $share)),
                        array_keys($loudest->shares()),
                        $loudest->shares(),
                    )),
                ));
            }

            return;
        }
        $channels = [];
        foreach ($session->channels as $channel) {
            $taps = [];
            foreach ($result->taps as $key => $reading) {
                [$id, $stage] = explode(':', (string) $key, 2);
                if ($id === $channel->id) {
                    $taps[$stage] = self::reading($reading);
                }
            }
            $channels[] = ['id' => $channel->id, 'name' => $channel->name, 'kind' => $channel->kind->value, 'taps' => $taps];
        }
        $this->say(json_encode(
            ['name' => $session->name, 'sampleRate' => $session->sampleRate, 'length' => $result->range->frames(), 'main' => self::main($result), 'channels' => $channels],
            JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION,
        ));
    }

    private function measured(Session $session, string $path): SurveyResult
    {
        $result = (new SessionSurvey($this->processors, new FolderLibrary(dirname($path)), FolderStore::temporary()))->measure($session);
        assert($result !== null);

        return $result;
    }

    private function path(Arguments $arguments): void
    {
        $format = $arguments->text('format') ?? 'text';
        if (! in_array($format, ['text', 'mermaid', 'dot'], true)) {
            throw new WrongUsage("--format takes text, mermaid or dot, not \"{$format}\".");
        }
        $session = $this->open($arguments->position(0));
        $wanted = $arguments->position(1);
        $channel = $session->channel($wanted);
        foreach ($channel === null ? $session->channels : [] as $other) {
            $channel ??= $other->name === $wanted ? $other : null;
        }
        if ($channel === null) {
            throw NoSuchChannel::named($wanted, $session);
        }
        $path = SignalPath::of($session, $channel);
        $writer = new PathWriter($session, $this->processors);
        $this->say(match ($format) {
            'mermaid' => $writer->mermaid($path),
            'dot' => $writer->dot($path),
            default => $writer->text($path),
        });
    }

    /** Exit status: 1 when there is a severe note, so that a script can tell. */
    private function check(Arguments $arguments): int
    {
        $session = $this->open($arguments->position(0));
        $survey = $arguments->has('survey') ? $this->measured($session, $arguments->position(0)) : null;
        $audioFiles = new LibraryAudioFiles(new FolderLibrary(dirname($arguments->position(0))));
        $notes = Pilot::standard()->advice($session, $this->processors, $survey, $audioFiles);
        if ($arguments->has('json')) {
            $this->say(json_encode(
                array_map(static fn (Advice $note): array => $note->toArray(), $notes),
                JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION,
            ));
        } elseif ($notes === []) {
            $this->say("{$session->name}: nothing to note.");
        }
        foreach ($arguments->has('json') ? [] : $notes as $note) {
            $this->say(sprintf('%-12s %s%s', $note->severity->value, $note->text, $note->fix === null ? '' : " ({$note->fix->label})"));
        }
        $severe = array_filter($notes, static fn (Advice $note): bool => $note->severity === Severity::Severe);

        return $severe === [] ? 0 : 1;
    }

    private function demo(Arguments $arguments): void
    {
        $folder = rtrim($arguments->position(0), '/');
        if (! is_dir($folder) && ! @mkdir($folder, 0o777, true)) {
            throw new WrongUsage("The folder \"{$folder}\" cannot be made.");
        }
        $demo = new FerryTerminal;
        foreach (array_keys(FerryTerminal::voices()) as $id) {
            $demo->write((string) $id, "{$folder}/{$id}.wav");
        }
        file_put_contents("{$folder}/session.json", $this->codec->encode($demo->session(static fn (string $id): string => "{$id}.wav"))."\n");
        $this->say("{$folder}/session.json and its tracks are there.");
    }

    /** @return array<string, mixed> LUFS, LU, dBTP; the loudest moment and the signed share each channel has in it */
    private static function main(SurveyResult $result): array
    {
        $loudest = $result->loudest();

        return [
            'loudness' => $result->loudness()?->integrated,
            'loudnessRange' => $result->loudness()?->range,
            'truePeak' => $result->truePeak(),
            'loudest' => $loudest === null ? null : ['position' => $loudest->position, 'value' => $loudest->value, 'shares' => (object) $loudest->shares()],
        ];
    }

    private static function figure(?float $value, string $unit, bool $signed = true): string
    {
        return $value === null ? "no {$unit}" : Decibel::text($value, $unit, $signed);
    }

    /** @return array{peak: ?float, rms: ?float, overs: int} levels in dBFS */
    private static function reading(TapReading $reading): array
    {
        return ['peak' => $reading->peakLevel(), 'rms' => $reading->rmsLevel(), 'overs' => $reading->overs];
    }

    private function open(string $path): Session
    {
        $json = is_file($path) && is_readable($path) ? file_get_contents($path) : false;
        if ($json === false) {
            throw InvalidDocument::unreadable($path);
        }

        return $this->codec->decode($json);
    }

    private function compiler(string $path): Compiler
    {
        return new Compiler($this->processors, new FolderLibrary(dirname($path)));
    }

    private function say(string $text): void
    {
        fwrite($this->out, $text."\n");
    }
}
