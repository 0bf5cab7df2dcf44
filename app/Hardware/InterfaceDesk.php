<?php

declare(strict_types=1);

namespace App\Hardware;

use App\Media\MediaFolder;
use App\Media\MediaLibrary;
use App\Models\Media;
use App\Models\StoredProfile;
use Hafen\Audio\AudioSource;
use Hafen\Audio\Resampler;
use Hafen\Audio\UnreadableAudioFile;
use Hafen\Document\JsonNode;
use Hafen\Hardware\InputPort;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\LevelAdvice;
use Hafen\Hardware\Outboard\Rack;
use Hafen\Hardware\Outboard\UnitSpec;
use Hafen\Hardware\Plug\MicrophonePipe;
use Hafen\Hardware\PlugKind;
use Hafen\Hardware\ProfileCodec;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Routing\QuickMonitoring;
use Illuminate\Support\Facades\DB;

/** The audio interface of this installation: how it is set, and what clipped. */
final readonly class InterfaceDesk
{
    private const NAME = 'Quay interface';

    public function __construct(private MediaFolder $folder)
    {
    }

    public function profile(): InterfaceProfile
    {
        return self::read($this->stored());
    }

    /** Grows with each setting. */
    public function changeNumber(): int
    {
        return $this->stored()->change;
    }

    /**
     * The interface itself, for one who plays at a rate and a tempo.
     *
     * @param  bool  $gathers  works in longer blocks, see {@see InterfaceProfile::gathering()}
     */
    public function open(int $sampleRate, float $tempo, bool $gathers = false): SimulatedInterface
    {
        $profile = $this->profile();
        $library = new MediaLibrary($this->folder, $sampleRate);

        return new SimulatedInterface($gathers ? $profile->gathering() : $profile, $sampleRate, $tempo, static function (string $file) use ($library, $sampleRate): ?AudioSource {
            try {
                return Resampler::to($library->open($file), $sampleRate);
            } catch (UnreadableAudioFile) {
                return null;
            }
        }, $this->microphone(...));
    }

    /** What the microphone at an input sends. */
    public function microphone(int $port): MicrophonePipe
    {
        return new MicrophonePipe($this->folder->microphone($port));
    }

    /** @throws \Hafen\Document\InvalidDocument naming the field */
    public function change(JsonNode $change): void
    {
        DB::transaction(function () use ($change): void {
            $stored = $this->stored();
            $stored->update(['profile' => self::json(ProfileCodec::changed(self::read($stored), $change)), 'change' => $stored->change + 1]);
        });
    }

    /** @param  array<int, int>  $samples  that were clipped, by port */
    public function clipped(array $samples): void
    {
        DB::transaction(function () use ($samples): void {
            $stored = $this->stored();
            $clipped = $stored->clipped;
            foreach ($samples as $port => $count) {
                $clipped[$port] = ($clipped[$port] ?? 0) + $count;
            }
            $stored->update(['clipped' => $clipped]);
        });
    }

    /** Takes the clip mark of an input away. */
    public function clear(int $port): void
    {
        DB::transaction(function () use ($port): void {
            $stored = $this->stored();
            $stored->update(['clipped' => array_diff_key($stored->clipped, [$port => 0])]);
        });
    }

    /** @return array<string, mixed> */
    public function state(): array
    {
        $stored = $this->stored();
        $profile = self::read($stored);
        $latency = $profile->latency();
        $set = ProfileCodec::toArray($profile);
        $names = Media::query()->whereIn('id', self::filesOf($profile))->pluck('name', 'id');

        return [
            'name' => self::NAME,
            ...$set,
            'inputs' => array_map(static fn (array $input): array => [...$input, ...(isset($input['file']) ? ['fileName' => $names[$input['file']] ?? 'a file that is gone'] : [])], $set['inputs']),
            'buffers' => InterfaceProfile::BUFFERS,
            'plugs' => array_map(static fn (PlugKind $plug): array => ['id' => $plug->value, 'label' => $plug->label()], PlugKind::cases()),
            'healthy' => ['lowestPeak' => LevelAdvice::LOWEST_PEAK, 'highestPeak' => LevelAdvice::HIGHEST_PEAK],
            'usualQuick' => QuickMonitoring::USUAL,
            'gains' => ['lowest' => InputPort::LOWEST_GAIN, 'highest' => InputPort::HIGHEST_GAIN],
            'latency' => ['in' => $latency->in(), 'out' => $latency->out(), 'roundTrip' => $latency->roundTrip()],
            'clipped' => (object) $stored->clipped,
            'units' => array_values(array_map(static fn (UnitSpec $spec): array => [
                ...$spec->toArray(),
                'send' => $profile->units[$spec->id]->send,
                'return' => $profile->units[$spec->id]->return,
                'isInverted' => $profile->units[$spec->id]->isInverted,
                'positions' => $spec->positions($profile->units[$spec->id]->knobs),
            ], Rack::specs())),
        ];
    }

    /** @return list<string> ids of the files that are plugged in */
    public function files(): array
    {
        return self::filesOf($this->profile());
    }

    /** @return list<string> */
    private static function filesOf(InterfaceProfile $profile): array
    {
        return array_values(array_filter(array_map(static fn (InputPort $input): ?string => $input->file, $profile->inputs)));
    }

    private function stored(): StoredProfile
    {
        return StoredProfile::query()->first() ?? StoredProfile::query()->create(['profile' => self::json(InterfaceProfile::standard()), 'clipped' => [], 'change' => 1]);
    }

    private static function read(StoredProfile $stored): InterfaceProfile
    {
        return ProfileCodec::fromArray(JsonNode::parse($stored->profile, 1 << 20));
    }

    private static function json(InterfaceProfile $profile): string
    {
        return json_encode(ProfileCodec::toArray($profile), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE);
    }
}
