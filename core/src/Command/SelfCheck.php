<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Audio\AudioFormat;
use Hafen\Audio\Block;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\WavWriter;
use Hafen\Document\SessionCodec;
use Hafen\Dsp\Noise;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\FolderLibrary;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;
use Hafen\Preset\Preset;
use Hafen\Preset\PresetCodec;
use Hafen\Preset\ShippedPresets;
use Hafen\Processor\ChangesNotes;
use Hafen\Processor\FollowsNotes;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Processor\TakesNotes;
use Hafen\Session\BlankSession;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Session;
use Hafen\Session\Source\BusSource;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;

/**
 * Runs every processor, and a small session through the engine, and hashes what comes out to the bit: the same machine must give
 * the same with the JIT on and off.
 */
final readonly class SelfCheck
{
    private const RATE = 48000;

    /** Frames each processor works, and frames the session plays. */
    private const FRAMES = 12288;

    private const SESSION_FRAMES = 48000;

    private const BLOCK = 512;

    /** Presets of each processor that are run beside its defaults. */
    private const PRESETS = 1;

    public function __construct(private ProcessorCatalogue $processors)
    {
    }

    /** @return array<string, string> hashes of what comes out, by what was run */
    public function hashes(): array
    {
        return SampleLoops::run(function (): array {
            $hashes = [];
            $left = (new Noise(1))->samples(self::FRAMES);
            $right = (new Noise(2))->samples(self::FRAMES);
            foreach ($this->processors->ids() as $id) {
                $hashes[$id] = hash('xxh128', implode('', array_map(
                    fn (array $parameters): string => $this->through($id, $parameters, $left, $right),
                    [[], ...$this->presets($id)],
                )));
            }
            $hashes['a session'] = $this->session();

            return $hashes;
        });
    }

    /** @return list<array<string, float|string|bool>> */
    private function presets(string $processor): array
    {
        $shipped = (new ShippedPresets(new PresetCodec(new SessionCodec($this->processors))))->all();
        $own = array_values(array_filter($shipped->presets, static fn (Preset $preset): bool => $preset->processor === $processor));

        return array_map(static fn (Preset $preset): array => $preset->parameters, array_slice($own, 0, self::PRESETS));
    }

    /**
     * @param  array<string, float|string|bool>  $parameters
     * @param  list<float>  $left
     * @param  list<float>  $right
     */
    private function through(string $id, array $parameters, array $left, array $right): string
    {
        $processor = $this->processors->make($id, $parameters, new Setting(self::RATE, 120.0));
        $hash = '';
        for ($at = 0; $at < self::FRAMES; $at += self::BLOCK) {
            $block = new Block(array_slice($left, $at, self::BLOCK), array_slice($right, $at, self::BLOCK));
            $notes = $at === 0 ? [new NoteEvent(0, NoteEventKind::On, 57, 0.8), new NoteEvent(100, NoteEventKind::On, 64, 0.6)] : [];
            $processor instanceof TakesNotes && $processor->notes($notes);
            $processor instanceof FollowsNotes && $processor->follow($notes);
            $processor instanceof ChangesNotes && $hash .= serialize($processor->changed($notes, self::BLOCK));
            $processor->process($block);
            $hash .= self::bits($block);
        }

        return $hash;
    }

    private function session(): string
    {
        $folder = sys_get_temp_dir().'/hafen-self-check-'.bin2hex(random_bytes(6));
        mkdir($folder);
        try {
            $writer = WavWriter::create("{$folder}/noise.wav", new AudioFormat(44100, 1, SampleFormat::Float32));
            $writer->write([(new Noise(3))->samples(self::SESSION_FRAMES)]);
            $writer->close();

            return $this->played(new Engine(new Compiler($this->processors, new FolderLibrary($folder)), self::mix()));
        } finally {
            @unlink("{$folder}/noise.wav");
            rmdir($folder);
        }
    }

    private function played(Engine $engine): string
    {
        $hash = '';
        for ($at = 0; $at < self::SESSION_FRAMES; $at += self::BLOCK) {
            $hash .= self::bits($engine->next());
        }
        foreach ($engine->readings() as $key => $reading) {
            $hash .= $key.pack('ee', $reading->peak, $reading->meanSquare);
        }

        return hash('xxh128', $hash);
    }

    private static function bits(Block $block): string
    {
        return hash('xxh128', pack('e*', ...$block->left).pack('e*', ...$block->right()), true);
    }

    /** Two tracks, one heard through dynamics and drive, both in a reverb, limited. */
    private static function mix(): Session
    {
        $track = static fn (string $id, ProcessorInsert ...$inserts): Channel => new Channel(
            $id, ChannelKind::Track, $id, Width::Stereo,
            new ClipSource([new Clip("clip-{$id}", 'noise.wav', 0, 0, self::SESSION_FRAMES, -6.0)]),
            inserts: array_values($inserts),
            sends: [new Send("send-{$id}", 'plate', -12.0)],
        );
        $blank = BlankSession::named('Self-check', self::RATE);

        return $blank->withLength(self::SESSION_FRAMES)->withChannels([
            $track('one', new ProcessorInsert('i1', 'parametric-eq'), new ProcessorInsert('i2', 'compressor')),
            $track('two', new ProcessorInsert('i3', 'drive'), new ProcessorInsert('i4', 'chorus', true, 0.5)),
            new Channel('plate', ChannelKind::Return, 'Plate', Width::Stereo, new BusSource, inserts: [new ProcessorInsert('i5', 'plate')]),
            $blank->main()->withRow(Row::Inserts, [new ProcessorInsert('i6', 'limiter')]),
        ]);
    }
}
