<?xml version='1.0' encoding='utf-8'?>
<!DOCTYPE TS>
<TS version="2.1" language="pt" sourcelanguage="en">
  <context>
    <name>Mirkle</name>
    <message>
      <source>there are no notes</source>
      <translation>não há notas</translation>
    </message>
    <message>
      <source>this recording holds no positions</source>
      <translation>esta gravação não tem posições</translation>
    </message>
    <message>
      <source>this ending is none that is known</source>
      <translation>esta terminação não é conhecida</translation>
    </message>
    <message>
      <source>write “mirkle {0}”</source>
      <translation>escreva “mirkle {0}”</translation>
    </message>
    <message>
      <source>commands are {0}</source>
      <translation>os comandos são {0}</translation>
    </message>
    <message>
      <source>there is no such command or file</source>
      <translation>não há tal comando nem ficheiro</translation>
    </message>
    <message>
      <source>nothing came from standard input</source>
      <translation>nada veio da entrada padrão</translation>
    </message>
    <message>
      <source>Done</source>
      <translation>Pronto</translation>
    </message>
    <message>
      <source>there is no display to open a window on</source>
      <translation>não há ecrã onde abrir uma janela</translation>
    </message>
    <message>
      <source>the window can't open ({0})</source>
      <translation>a janela não abre ({0})</translation>
    </message>
    <message>
      <source>What Mirkle measures is the line that one car took on one pass. By the next pass ruts, stones pulled onto the road, water or ice may have changed it.</source>
      <translation>O que o Mirkle mede é a linha que um carro fez numa passagem. Na próxima, regos, pedras puxadas para a estrada, água ou gelo podem tê-la mudado.</translation>
    </message>
    <message>
      <source>Both of you agree on every change, and look at the recording before you do. A note is made faster only by two people, never by a number.</source>
      <translation>Os dois concordam com cada alteração, e vêem a gravação antes. Uma nota só se torna mais rápida por duas pessoas, nunca por um número.</translation>
    </message>
    <message>
      <source>The organisers' rules on reconnaissance, note-making, recording and safety notices come before anything here.</source>
      <translation>As regras da organização sobre reconhecimentos, notas, gravações e avisos de segurança estão acima de tudo o que aqui está.</translation>
    </message>
    <message>
      <source>Never try notes out on a road that is open to others.</source>
      <translation>Nunca experimentem notas numa estrada aberta a outros.</translation>
    </message>
    <message>
      <source>Mirkle does not stand in for the official road book, the safety crews or what the stewards say.</source>
      <translation>O Mirkle não substitui o caderno oficial, as equipas de segurança nem o que dizem os comissários.</translation>
    </message>
    <message>
      <source>{0}, line {1}</source>
      <translation>{0}, linha {1}</translation>
    </message>
    <message>
      <source>No vertical accelerometer: crests, jumps, bumps and dips are not judged.</source>
      <translation>Sem acelerómetro vertical: altos, saltos, lombas e depressões não são julgados.</translation>
    </message>
    <message>
      <source>The recording holds {0} drives ({1}): the longest was taken; set the start by hand to take another.</source>
      <translation>A gravação tem {0} percursos ({1}): foi tomado o mais longo; marque a partida à mão para tomar outro.</translation>
    </message>
    <message>
      <source>On {0:.0f} % of the stage shake hides crests and dips: there none is said to be missing or uncalled.</source>
      <translation>Em {0:.0f} % do troço a trepidação esconde altos e depressões: aí não se diz que algum falte ou não tenha sido dito.</translation>
    </message>
    <message>
      <source>Finding the driven line</source>
      <translation>A procurar a linha conduzida</translation>
    </message>
    <message>
      <source>Pairing the notes with the road</source>
      <translation>A juntar as notas à estrada</translation>
    </message>
    <message>
      <source>there is no bend in it</source>
      <translation>não tem nenhuma curva</translation>
    </message>
    <message>
      <source>Judging</source>
      <translation>A julgar</translation>
    </message>
    <message>
      <source>Neither the notes nor the road tell whether your 1 is tight or nearly flat out: say so in Gather; until then what rests on it is no more than a check.</source>
      <translation>Nem as notas nem a estrada dizem se a vossa 1 é fechada ou quase a fundo: digam-no em Reunir; até lá, o que nisso se apoia é só uma verificação.</translation>
    </message>
    <message>
      <source>Positions are missing there for {0:.0f} s; the line was bridged.</source>
      <translation>Faltam ali posições durante {0:.0f} s; a linha foi completada.</translation>
    </message>
    <message>
      <source>mark</source>
      <translation>marcado</translation>
    </message>
    <message>
      <source>keep</source>
      <translation>mantido</translation>
    </message>
    <message>
      <source>talk</source>
      <translation>a conversar</translation>
    </message>
    <message>
      <source>video</source>
      <translation>ver no vídeo</translation>
    </message>
    <message>
      <source>hazard</source>
      <translation>perigo</translation>
    </message>
    <message>
      <source>condition</source>
      <translation>condição</translation>
    </message>
    <message>
      <source>driver</source>
      <translation>piloto</translation>
    </message>
    <message>
      <source>co-driver</source>
      <translation>navegador</translation>
    </message>
    <message>
      <source>both</source>
      <translation>os dois</translation>
    </message>
    <message>
      <source>this note is already part of “{0}”</source>
      <translation>esta nota já faz parte de “{0}”</translation>
    </message>
    <message>
      <source>as it was called</source>
      <translation>como foi ditada</translation>
    </message>
    <message>
      <source>tighter than it was called</source>
      <translation>mais fechada do que foi ditada</translation>
    </message>
    <message>
      <source>more open than it was called</source>
      <translation>mais aberta do que foi ditada</translation>
    </message>
    <message>
      <source>longer than it was called</source>
      <translation>mais longa do que foi ditada</translation>
    </message>
    <message>
      <source>shorter than it was called</source>
      <translation>mais curta do que foi ditada</translation>
    </message>
    <message>
      <source>it goes the other way</source>
      <translation>vai para o outro lado</translation>
    </message>
    <message>
      <source>a note is missing behind it</source>
      <translation>falta uma nota a seguir</translation>
    </message>
    <message>
      <source>a hazard there</source>
      <translation>um perigo ali</translation>
    </message>
    <message>
      <source>The passes don't compare by the clock: the later one used {0:.0%} of the earlier one's grip.</source>
      <translation>As passagens não se comparam pelo relógio: a última usou {0:.0%} da aderência da anterior.</translation>
    </message>
    <message>
      <source>{0:.1f} s gained there beyond the rest of the pass, give or take {1:.1f} s.</source>
      <translation>{0:.1f} s ganhos ali além do resto da passagem, mais ou menos {1:.1f} s.</translation>
    </message>
    <message>
      <source>{0:.1f} s lost there against the rest of the pass, give or take {1:.1f} s.</source>
      <translation>{0:.1f} s perdidos ali em relação ao resto da passagem, mais ou menos {1:.1f} s.</translation>
    </message>
    <message>
      <source>Nothing is missing where the note stood.</source>
      <translation>Nada falta onde a nota estava.</translation>
    </message>
    <message>
      <source>This pass does not show it.</source>
      <translation>Esta passagem não o mostra.</translation>
    </message>
    <message>
      <source>The later pass has nothing against it.</source>
      <translation>A última passagem não tem nada contra ela.</translation>
    </message>
    <message>
      <source>Called {0}; it turned like your {1}, {2:.0f} m at its tightest, {3:.0f} km/h at the slowest.</source>
      <translation>Chamada {0}; virou como a sua {1}, {2:.0f} m no mais apertado, {3:.0f} km/h no mais lento.</translation>
    </message>
    <message>
      <source>These notes fit this road when it is driven the opposite way: nothing is judged.</source>
      <translation>Estas notas servem para esta estrada feita no sentido contrário: nada é julgado.</translation>
    </message>
    <message>
      <source>These notes fit this road with left and right swapped: nothing is judged.</source>
      <translation>Estas notas servem para esta estrada com a esquerda e a direita trocadas: nada é julgado.</translation>
    </message>
    <message>
      <source>These notes stand in the file twice: nothing is judged until one of the two is taken out.</source>
      <translation>Estas notas estão duas vezes no ficheiro: nada é julgado até se tirar uma delas.</translation>
    </message>
    <message>
      <source>These notes do not describe this road; they look like another stage's: nothing is judged.</source>
      <translation>Estas notas não descrevem esta estrada; parecem ser de outra classificativa: nada é julgado.</translation>
    </message>
    <message>
      <source>What was said does not fit these notes; it looks like another stage's: the words are left aside.</source>
      <translation>O que se disse não corresponde a estas notas; parece ser de outra classificativa: as palavras ficam de parte.</translation>
    </message>
    <message>
      <source>These notes describe only {0:.2f} to {1:.2f} km of this road: nothing is judged outside.</source>
      <translation>Estas notas descrevem só do km {0:.2f} ao {1:.2f} desta estrada: fora daí nada é julgado.</translation>
    </message>
    <message>
      <source>the car never drives in it</source>
      <translation>o carro nunca anda nela</translation>
    </message>
    <message>
      <source>{0} is clipped at {1:.1f} g: peaks are not to be trusted.</source>
      <translation>{0} está cortada em {1:.1f} g: não confie nos picos.</translation>
    </message>
    <message>
      <source>{0} never changes: a dead channel, left out.</source>
      <translation>{0} nunca muda: um canal morto, posto de parte.</translation>
    </message>
    <message>
      <source>Recorded, but nothing here rests on it: {0}.</source>
      <translation>Gravado, mas nada aqui se apoia nisso: {0}.</translation>
    </message>
    <message>
      <source>Samples come {0:.0f} to {1:.0f} ms apart where {2:.0f} are usual ({3}).</source>
      <translation>As amostras vêm a {0:.0f} a {1:.0f} ms umas das outras, onde {2:.0f} é o costume ({3}).</translation>
    </message>
    <message>
      <source>{0:.0f} of {1:.0f} samples are missing ({2}).</source>
      <translation>Faltam {0:.0f} de {1:.0f} amostras ({2}).</translation>
    </message>
    <message>
      <source>Heights from {0:.0f} to {1:.0f} m can't be this road's: they were left out.</source>
      <translation>Alturas de {0:.0f} a {1:.0f} m não podem ser desta estrada: foram postas de parte.</translation>
    </message>
    <message>
      <source>The wheel speed has nothing to do with the speed; it was left out.</source>
      <translation>A velocidade das rodas nada tem a ver com a velocidade; foi posta de parte.</translation>
    </message>
    <message>
      <source>The wheels read {0:.2f} times the speed: taken at the speed's scale.</source>
      <translation>As rodas leem {0:.2f} vezes a velocidade: tomadas à escala da velocidade.</translation>
    </message>
    <message>
      <source>No speed was recorded: the wheel speed was taken for it, at the scale that the positions show.</source>
      <translation>Não foi gravada nenhuma velocidade: tomou-se a das rodas, à escala que as posições mostram.</translation>
    </message>
    <message>
      <source>Each value stands {0} times in a row ({1}): taken as measured once.</source>
      <translation>Cada valor aparece {0} vezes seguidas ({1}): contado como medido uma só vez.</translation>
    </message>
    <message>
      <source>{0} stands {1:.1f} m/s² off at the stop from where it stood at the start: the mount has turned, or the ground slopes much there. Its level is followed slowly.</source>
      <translation>{0} está na paragem {1:.1f} m/s² longe de onde estava na partida: o suporte rodou, ou o chão inclina muito ali. O nível é seguido devagar.</translation>
    </message>
    <message>
      <source>The speed is {0:.1f} times what the positions show: taken as {1}, which its column does not say.</source>
      <translation>A velocidade é {0:.1f} vezes a que as posições mostram: tomada como {1}, o que a coluna não diz.</translation>
    </message>
    <message>
      <source>The speed is {0:.2f} times what the positions show; it was left out.</source>
      <translation>A velocidade é {0:.2f} vezes a que as posições mostram; ficou de fora.</translation>
    </message>
    <message>
      <source>The vertical acceleration stands at 1 where it should stand at 9.8: taken as g, which its column does not say.</source>
      <translation>A aceleração vertical está em 1 onde devia estar em 9,8: tomada como g, o que a coluna não diz.</translation>
    </message>
    <message>
      <source>The vertical acceleration stands at 96 where it should stand at 9.8: taken as m/s², which its column does not say.</source>
      <translation>A aceleração vertical está em 96 onde devia estar em 9,8: tomada como m/s², o que a coluna não diz.</translation>
    </message>
    <message>
      <source>The vertical acceleration is upside down; its sign was turned.</source>
      <translation>A aceleração vertical está de cabeça para baixo; o sinal foi invertido.</translation>
    </message>
    <message>
      <source>The vertical acceleration can't be used, since {0}: crests and jumps are not judged.</source>
      <translation>A aceleração vertical não serve, porque {0}: altos e saltos não são julgados.</translation>
    </message>
    <message>
      <source>The yaw rate has the wrong sign; it was turned.</source>
      <translation>A velocidade de guinada tem o sinal trocado; foi invertida.</translation>
    </message>
    <message>
      <source>The yaw rate is 57 times what the course shows: taken as degrees a second, which its column does not say.</source>
      <translation>A velocidade de guinada é 57 vezes a que o rumo mostra: tomada como graus por segundo, o que a coluna não diz.</translation>
    </message>
    <message>
      <source>The yaw rate has nothing to do with the course; it was left out.</source>
      <translation>A velocidade de guinada nada tem a ver com o rumo; ficou de fora.</translation>
    </message>
    <message>
      <source>The lateral acceleration has the wrong sign; it was turned.</source>
      <translation>A aceleração lateral tem o sinal trocado; foi invertida.</translation>
    </message>
    <message>
      <source>Forward and lateral acceleration are swapped: the recorder is mounted across; they were put right.</source>
      <translation>As acelerações longitudinal e lateral estão trocadas: o gravador está montado de través; foram corrigidas.</translation>
    </message>
    <message>
      <source>The lateral acceleration has nothing to do with the turning; it was left out.</source>
      <translation>A aceleração lateral nada tem a ver com as curvas; ficou de fora.</translation>
    </message>
    <message>
      <source>The forward acceleration has the wrong sign; it was turned.</source>
      <translation>A aceleração longitudinal tem o sinal trocado; foi invertida.</translation>
    </message>
    <message>
      <source>The forward acceleration has nothing to do with the speed; it was left out.</source>
      <translation>A aceleração longitudinal nada tem a ver com a velocidade; ficou de fora.</translation>
    </message>
    <message>
      <source>{0:.2f} to {1:.2f} km was not measured: no positions for {2:.0f} s; it is between {3:.0f} and {4:.0f} m long.</source>
      <translation>De {0:.2f} a {1:.2f} km não foi medido: sem posições durante {2:.0f} s; tem entre {3:.0f} e {4:.0f} m.</translation>
    </message>
    <message>
      <source>Positions come {0:.2f} s late, give or take {1:.2f} s: they were moved to when they were true.</source>
      <translation>As posições chegam com {0:.2f} s de atraso, mais ou menos {1:.2f} s: foram levadas ao momento em que eram verdadeiras.</translation>
    </message>
    <message>
      <source>The recorder sits {0:.0f}° from upright and {1:.0f}° from straight ahead in the car: its channels were turned into the car's axes.</source>
      <translation>O gravador está a {0:.0f}° da vertical e a {1:.0f}° da frente do carro: os seus canais foram rodados para os eixos do carro.</translation>
    </message>
    <message>
      <source>Positions are missing once, for {0:.0f} s; the path was bridged there.</source>
      <translation>Faltam posições uma vez, {0:.0f} s; o trajeto foi aí ligado.</translation>
    </message>
    <message>
      <source>Positions are missing {0} times, for up to {1:.0f} s; the path was bridged there.</source>
      <translation>Faltam posições {0} vezes, até {1:.0f} s; o trajeto foi ligado por cima.</translation>
    </message>
    <message>
      <source>Positions are missing for {0:.0f} s: what lies there was not measured, and nothing is said of it.</source>
      <translation>Faltam posições durante {0:.0f} s: o que lá está não foi medido, e nada se diz disso.</translation>
    </message>
    <message>
      <source>Positions are missing {0} times, for up to {1:.0f} s: what lies there was not measured, and nothing is said of it.</source>
      <translation>Faltam posições {0} vezes, até {1:.0f} s: o que lá está não foi medido, e nada se diz disso.</translation>
    </message>
    <message>
      <source>Only positions, about one a second: bends are blurred, so most findings can be no more than a check.</source>
      <translation>Só posições, cerca de uma por segundo: as curvas ficam esbatidas, e quase tudo só pode ser a verificar.</translation>
    </message>
    <message>
      <source>Times stand {0:.0f} apart: taken as {1}, which the column does not say.</source>
      <translation>Os tempos distam {0:.0f}: tomados como {1}, o que a coluna não diz.</translation>
    </message>
    <message>
      <source>The clock leaps by more than an hour {0} times; the longest part between two was taken.</source>
      <translation>O relógio salta mais de uma hora {0} vezes; foi tomada a parte mais longa entre dois saltos.</translation>
    </message>
    <message>
      <source>it runs over {0:.0f} hours</source>
      <translation>dura {0:.0f} horas</translation>
    </message>
    <message>
      <source>{0} values of the {1} are beyond all measure and were left out.</source>
      <translation>{0} valores ({1}) estão fora de toda a medida e foram deixados de fora.</translation>
    </message>
    <message>
      <source>{0} positions stand at 0°, 0° and were left out.</source>
      <translation>{0} posições estão em 0°, 0° e foram deixadas de fora.</translation>
    </message>
    <message>
      <source>{0} positions lie nowhere on the globe and were left out.</source>
      <translation>{0} posições não ficam em lado nenhum do globo e foram deixadas de fora.</translation>
    </message>
    <message>
      <source>The position stays the same for {0:.0f} s while the car goes on; it was left out there.</source>
      <translation>A posição fica igual durante {0:.0f} s enquanto o carro continua; aí foi deixada de fora.</translation>
    </message>
    <message>
      <source>Latitude and longitude are swapped; they were put right.</source>
      <translation>A latitude e a longitude estão trocadas; foram corrigidas.</translation>
    </message>
    <message>
      <source>its positions leap about, by up to {0:.1f} km at once</source>
      <translation>as posições saltam de um lado para o outro, até {0:.1f} km de uma vez</translation>
    </message>
    <message>
      <source>{0} positions lie where no car could have come to and were left out.</source>
      <translation>{0} posições estão onde nenhum carro poderia chegar e foram deixadas de fora.</translation>
    </message>
    <message>
      <source>The course runs to {0:.0f}: taken as degrees, which its column does not say.</source>
      <translation>O rumo vai até {0:.0f}: tomado como graus, o que a coluna não diz.</translation>
    </message>
    <message>
      <source>The course never passes 6.3 degrees: taken as radians, which its column does not say.</source>
      <translation>O rumo nunca passa de 6,3 graus: tomado como radianos, o que a coluna não diz.</translation>
    </message>
    <message>
      <source>The {0} has lost its minus, by the recorded course; it was put back.</source>
      <translation>Pelo rumo gravado, perdeu-se o sinal menos ({0}); foi reposto.</translation>
    </message>
    <message>
      <source>Time stepped back {0} times; the samples were put in order.</source>
      <translation>O tempo andou para trás {0} vezes; as amostras foram postas em ordem.</translation>
    </message>
    <message>
      <source>{0} samples repeat a time; the first of each was kept.</source>
      <translation>{0} amostras repetem um instante; ficou a primeira de cada.</translation>
    </message>
    <message>
      <source>time goes back by up to {0:.0f} s</source>
      <translation>o tempo anda para trás até {0:.0f} s</translation>
    </message>
    <message>
      <source>its positions are {0:.0f} s apart, too far to show a bend</source>
      <translation>as posições distam {0:.0f} s, demais para mostrar uma curva</translation>
    </message>
    <message>
      <source>there is neither a position nor a speed with a yaw rate</source>
      <translation>não há posição, nem velocidade com velocidade de guinada</translation>
    </message>
    <message>
      <source>there are latitudes beyond 90 or longitudes beyond 360 degrees</source>
      <translation>há latitudes acima de 90 ou longitudes acima de 360 graus</translation>
    </message>
    <message>
      <source>the car moves only {0:.0f} m in it</source>
      <translation>o carro anda nela só {0:.0f} m</translation>
    </message>
    <message>
      <source>it lasts only {0:.1f} s</source>
      <translation>dura apenas {0:.1f} s</translation>
    </message>
    <message>
      <source>minutes</source>
      <translation>minutos</translation>
    </message>
    <message>
      <source>hours</source>
      <translation>horas</translation>
    </message>
    <message>
      <source>days</source>
      <translation>dias</translation>
    </message>
    <message>
      <source>hundredths of a second</source>
      <translation>centésimos de segundo</translation>
    </message>
    <message>
      <source>milliseconds</source>
      <translation>milissegundos</translation>
    </message>
    <message>
      <source>microseconds</source>
      <translation>microssegundos</translation>
    </message>
    <message>
      <source>nanoseconds</source>
      <translation>nanossegundos</translation>
    </message>
    <message>
      <source>ten millionths of a degree</source>
      <translation>décimas de milionésimo de grau</translation>
    </message>
    <message>
      <source>millionths of a degree</source>
      <translation>milionésimos de grau</translation>
    </message>
    <message>
      <source>hundred thousandths of a degree</source>
      <translation>centésimas de milésimo de grau</translation>
    </message>
    <message>
      <source>radians</source>
      <translation>radianos</translation>
    </message>
    <message>
      <source>tenths</source>
      <translation>décimos</translation>
    </message>
    <message>
      <source>hundredths</source>
      <translation>centésimos</translation>
    </message>
    <message>
      <source>thousandths</source>
      <translation>milésimos</translation>
    </message>
    <message>
      <source>Its times make sense as {0}, which the column does not say.</source>
      <translation>Os tempos fazem sentido em {0}, o que a coluna não diz.</translation>
    </message>
    <message>
      <source>Latitude and longitude make sense as {0}, which their columns don't say.</source>
      <translation>Latitude e longitude fazem sentido em {0}, o que as colunas não dizem.</translation>
    </message>
    <message>
      <source>Its speeds make sense as {0} of what the column says.</source>
      <translation>As velocidades fazem sentido como {0} do que a coluna diz.</translation>
    </message>
    <message>
      <source>direction first</source>
      <translation>lado primeiro</translation>
    </message>
    <message>
      <source>grade first</source>
      <translation>nota primeiro</translation>
    </message>
    <message>
      <source>there is no word to teach</source>
      <translation>não há palavra para ensinar</translation>
    </message>
    <message>
      <source>“{0}” is no {1} of {2}</source>
      <translation>“{0}” não é {1} de {2}</translation>
    </message>
    <message>
      <source>{0} is missing</source>
      <translation>falta {0}</translation>
    </message>
    <message>
      <source>[{0}] is no kind of term</source>
      <translation>[{0}] não é um género de termo</translation>
    </message>
    <message>
      <source>use one of {0}</source>
      <translation>use um de {0}</translation>
    </message>
    <message>
      <source>[{0}] is no table</source>
      <translation>[{0}] não é uma tabela</translation>
    </message>
    <message>
      <source>[compose], [sound] or [asked] has another form than this</source>
      <translation>[compose], [sound] ou [asked] tem outra forma</translation>
    </message>
    <message>
      <source>“{0}” has no spoken form</source>
      <translation>“{0}” não tem forma falada</translation>
    </message>
    <message>
      <source>“{0}” has {1} = …</source>
      <translation>“{0}” tem {1} = …</translation>
    </message>
    <message>
      <source>use {0}</source>
      <translation>use {0}</translation>
    </message>
    <message>
      <source>“{0}” is no number</source>
      <translation>“{0}” não é um número</translation>
    </message>
    <message>
      <source>“{0}” is no direction</source>
      <translation>“{0}” não é um sentido</translation>
    </message>
    <message>
      <source>“{0}”: {1} is no list of words</source>
      <translation>“{0}”: {1} não é uma lista de palavras</translation>
    </message>
    <message>
      <source>“{0}” is often heard for it</source>
      <translation>ouve-se muitas vezes “{0}” em vez dela</translation>
    </message>
    <message>
      <source>{0} sounds like {1}</source>
      <translation>{0} soa como {1}</translation>
    </message>
    <message>
      <source>two numbers stuck together</source>
      <translation>dois números colados</translation>
    </message>
    <message>
      <source>sounds like “{0}”</source>
      <translation>soa como “{0}”</translation>
    </message>
    <message>
      <source>“{0}” at the top was taken for a title.</source>
      <translation>“{0}”, no princípio, foi tomado por um título.</translation>
    </message>
    <message>
      <source>The numbers of a list at {0} lines were left out.</source>
      <translation>Os números de lista em {0} linhas foram deixados de fora.</translation>
    </message>
    <message>
      <source>The bullets at {0} lines were left out.</source>
      <translation>As marcas de lista em {0} linhas foram deixadas de fora.</translation>
    </message>
    <message>
      <source>{0} distances that stood on lines of their own were taken to the notes above them.</source>
      <translation>{0} distâncias em linhas próprias foram juntas às notas acima delas.</translation>
    </message>
    <message>
      <source>left</source>
      <translation>esquerda</translation>
    </message>
    <message>
      <source>right</source>
      <translation>direita</translation>
    </message>
    <message>
      <source>a distance</source>
      <translation>uma distância</translation>
    </message>
    <message>
      <source>{0}, then {1} metres</source>
      <translation>{0}, depois {1} metros</translation>
    </message>
    <message>
      <source>no corner could be read in this text</source>
      <translation>não se leu nenhuma curva neste texto</translation>
    </message>
    <message>
      <source>no corner could be read in what was said</source>
      <translation>não se leu nenhuma curva no que foi dito</translation>
    </message>
    <message>
      <source>there is nothing written</source>
      <translation>não há nada escrito</translation>
    </message>
    <message>
      <source>“{0}” is no word of your notes</source>
      <translation>“{0}” não é palavra das vossas notas</translation>
    </message>
    <message>
      <source>this is no note</source>
      <translation>isto não é uma nota</translation>
    </message>
    <message>
      <source>the {0} has no grade</source>
      <translation>falta o grau da curva ({0})</translation>
    </message>
    <message>
      <source>the {0} has no direction</source>
      <translation>falta o sentido do {0}</translation>
    </message>
    <message>
      <source>The other pass agrees.</source>
      <translation>A outra passagem concorda.</translation>
    </message>
    <message>
      <source>The other pass does not show it.</source>
      <translation>A outra passagem não o mostra.</translation>
    </message>
    <message>
      <source>{0} other passes agree.</source>
      <translation>{0} outras passagens concordam.</translation>
    </message>
    <message>
      <source>{0} other passes do not show it.</source>
      <translation>{0} outras passagens não o mostram.</translation>
    </message>
    <message>
      <source>Of {0} other passes, {1} agree with it.</source>
      <translation>De {0} outras passagens, {1} concordam.</translation>
    </message>
    <message>
      <source>Called {0}; it turned like your {1}: {2:.0f} m at its tightest{3}; {4:.0f} km/h at the slowest.</source>
      <translation>Ditado {0}; virou como a vossa {1}: {2:.0f} m no mais fechado{3}; {4:.0f} km/h no mais lento.</translation>
    </message>
    <message>
      <source>The car slid there, {0:.0f}° more than it usually does, so its line says less.</source>
      <translation>O carro escorregou aí, {0:.0f}° mais do que é costume, por isso a sua linha diz menos.</translation>
    </message>
    <message>
      <source>, as your {0}s are ({1:.0f} to {2:.0f} m), but it turned {3:.0f}° over {4:.0f} m, which counts in your grades too</source>
      <translation>, como as suas {0} ({1:.0f} a {2:.0f} m), mas virou {3:.0f}° em {4:.0f} m, o que também conta nos seus graus</translation>
    </message>
    <message>
      <source>, where your {0}s run from {1:.0f} to {2:.0f} m</source>
      <translation>, onde as vossas {0} vão de {1:.0f} a {2:.0f} m</translation>
    </message>
    <message>
      <source>Called {0}; the road went {1}: {2:.0f}° round {3:.0f} m at {4:.0f} km/h.</source>
      <translation>Ditado {0}; a estrada foi para a {1}: {2:.0f}° com {3:.0f} m a {4:.0f} km/h.</translation>
    </message>
    <message>
      <source>the car turned only {0:.0f}° there</source>
      <translation>o carro só virou {0:.0f}° ali</translation>
    </message>
    <message>
      <source>the car drove straight on there</source>
      <translation>o carro seguiu ali a direito</translation>
    </message>
    <message>
      <source>Called {0}, and {1}: no corner between {2:.2f} and {3:.2f} km answers this note.</source>
      <translation>Ditado {0}, e {1}: nenhuma curva entre {2:.2f} e {3:.2f} km responde a esta nota.</translation>
    </message>
    <message>
      <source>No note calls this {0}: it turned like your {1}, {2:.0f}° round {3:.0f} m, {4:.0f} km/h at the slowest.</source>
      <translation>Nenhuma nota dita esta {0}: virou como a vossa {1}, {2:.0f}° com {3:.0f} m, {4:.0f} km/h no mais lento.</translation>
    </message>
    <message>
      <source>{0:.0f} km/h</source>
      <translation>{0:.0f} km/h</translation>
    </message>
    <message>
      <source>Braked up to {0:.1f} g into a {1}, down to {2:.0f} km/h, where your {1}s carry about {3:.0f}: something here surprised the driver.</source>
      <translation>Travou até {0:.1f} g para uma {1}, até {2:.0f} km/h, onde as vossas {1} levam uns {3:.0f}: algo aqui surpreendeu o piloto.</translation>
    </message>
    <message>
      <source>{0:.0%} of the grip</source>
      <translation>{0:.0%} da aderência</translation>
    </message>
    <message>
      <source>{0:.0f} km/h used {1:.0%} of the grip that you use elsewhere on this part; at most {2:.1f} s lay in it.</source>
      <translation>{0:.0f} km/h usaram {1:.0%} da aderência que usam no resto desta parte; havia ali no máximo {2:.1f} s.</translation>
    </message>
    <message>
      <source>a line of {0:.0f} m</source>
      <translation>uma linha de {0:.0f} m</translation>
    </message>
    <message>
      <source>The note says not to cut; the line was {0:.0f} m at its tightest, {1:.1f} of a grade wider than the corner is written: look on the video whether the car cut.</source>
      <translation>A nota diz para não cortar; a linha foi de {0:.0f} m no mais fechado, {1:.1f} de nota mais larga do que está escrito: vejam no vídeo se o carro cortou.</translation>
    </message>
    <message>
      <source>{0:.0f}</source>
      <translation>{0:.0f}</translation>
    </message>
    <message>
      <source>{0:.0f} m</source>
      <translation>{0:.0f} m</translation>
    </message>
    <message>
      <source>Called {0:.0f}; it was {1:.0f} m from the end of {2} to {3}, where your {0:.0f}s run from {4:.0f} to {5:.0f} m.</source>
      <translation>Ditado {0:.0f}; foram {1:.0f} m do fim de {2} até {3}, onde os vossos {0:.0f} vão de {4:.0f} a {5:.0f} m.</translation>
    </message>
    <message>
      <source>This is the first of {0} like it: you call {1} of {2}, so they are shown once. Look whether that is your habit.</source>
      <translation>É a primeira de {0} como esta: chamam {1} de {2}, por isso mostram-se uma só vez. Vejam se é hábito vosso.</translation>
    </message>
    <message>
      <source>danger</source>
      <translation>perigo</translation>
    </message>
    <message>
      <source>change</source>
      <translation>alterar</translation>
    </message>
    <message>
      <source>check</source>
      <translation>ver</translation>
    </message>
    <message>
      <source>remark</source>
      <translation>observação</translation>
    </message>
    <message>
      <source>The road goes the other way</source>
      <translation>A estrada vai para o outro lado</translation>
    </message>
    <message>
      <source>The road is tighter than the note</source>
      <translation>A estrada é mais fechada que a nota</translation>
    </message>
    <message>
      <source>The road is more open than the note</source>
      <translation>A estrada é mais aberta que a nota</translation>
    </message>
    <message>
      <source>A corner that no note calls</source>
      <translation>Uma curva que nenhuma nota dita</translation>
    </message>
    <message>
      <source>A note without a corner</source>
      <translation>Uma nota sem curva</translation>
    </message>
    <message>
      <source>It is further than called</source>
      <translation>É mais longe que o ditado</translation>
    </message>
    <message>
      <source>It is nearer than called</source>
      <translation>É mais perto que o ditado</translation>
    </message>
    <message>
      <source>It tightens, and the note does not say so</source>
      <translation>Fecha, e a nota não o diz</translation>
    </message>
    <message>
      <source>Called to tighten, and it did not</source>
      <translation>Ditada a fechar, e não fechou</translation>
    </message>
    <message>
      <source>It opens, and the note does not say so</source>
      <translation>Abre, e a nota não o diz</translation>
    </message>
    <message>
      <source>Called to open, and it did not</source>
      <translation>Ditada a abrir, e não abriu</translation>
    </message>
    <message>
      <source>It goes on for longer than called</source>
      <translation>É mais longa que o ditado</translation>
    </message>
    <message>
      <source>It is shorter than called</source>
      <translation>É mais curta que o ditado</translation>
    </message>
    <message>
      <source>A jump that no note calls</source>
      <translation>Um salto que nenhuma nota dita</translation>
    </message>
    <message>
      <source>Called a jump; the car did not fly</source>
      <translation>Ditado um salto; o carro não voou</translation>
    </message>
    <message>
      <source>A crest that no note calls</source>
      <translation>Um alto que nenhuma nota dita</translation>
    </message>
    <message>
      <source>Called a crest, and none was felt</source>
      <translation>Ditado um alto, e não se sentiu</translation>
    </message>
    <message>
      <source>A bump that no note calls</source>
      <translation>Uma lomba que nenhuma nota dita</translation>
    </message>
    <message>
      <source>Called a bump, and none was felt</source>
      <translation>Ditada uma lomba, e não se sentiu</translation>
    </message>
    <message>
      <source>A dip that no note calls</source>
      <translation>Uma depressão que nenhuma nota dita</translation>
    </message>
    <message>
      <source>Called a dip, and none was felt</source>
      <translation>Ditada uma depressão, e não se sentiu</translation>
    </message>
    <message>
      <source>The maybe is settled</source>
      <translation>O talvez está resolvido</translation>
    </message>
    <message>
      <source>Something here surprised the driver</source>
      <translation>Algo aqui surpreendeu o piloto</translation>
    </message>
    <message>
      <source>Speed was left here</source>
      <translation>Ficou aqui velocidade por usar</translation>
    </message>
    <message>
      <source>The call came too late</source>
      <translation>O ditado veio tarde de mais</translation>
    </message>
    <message>
      <source>The call came early</source>
      <translation>O ditado veio cedo</translation>
    </message>
    <message>
      <source>Not to be cut, and driven wider</source>
      <translation>Não cortar, e foi feita mais larga</translation>
    </message>
    <message>
      <source>It was said otherwise than it is written</source>
      <translation>Disse-se diferente do escrito</translation>
    </message>
    <message>
      <source>pace lost</source>
      <translation>ritmo perdido</translation>
    </message>
    <message>
      <source>the car stopped</source>
      <translation>o carro parou</translation>
    </message>
    <message>
      <source>the tail got away</source>
      <translation>a traseira fugiu</translation>
    </message>
    <message>
      <source>it held its radius</source>
      <translation>manteve o raio</translation>
    </message>
    <message>
      <source>it opened</source>
      <translation>abriu</translation>
    </message>
    <message>
      <source>it opened towards its end</source>
      <translation>abriu para o fim</translation>
    </message>
    <message>
      <source>it did not open</source>
      <translation>não abriu</translation>
    </message>
    <message>
      <source>tightens {0}</source>
      <translation>fecha {0}</translation>
    </message>
    <message>
      <source>It tightens and the note does not say so: {0:.0f} m round in its first half, {1:.0f} m in its second, over {2:.0f} m; {3:.0f} km/h at the slowest.</source>
      <translation>Fecha e a nota não o diz: raio de {0:.0f} m na primeira metade, {1:.0f} m na segunda, em {2:.0f} m; {3:.0f} km/h no mais lento.</translation>
    </message>
    <message>
      <source>Called {0}, and {1}: {2:.0f}° over {3:.0f} m.</source>
      <translation>Ditado {0}, e {1}: {2:.0f}° em {3:.0f} m.</translation>
    </message>
    <message>
      <source>Called {0}; it went on for {1:.0f} m, where such notes of yours go on for about {2:.0f} m.</source>
      <translation>Ditado {0}; durou {1:.0f} m, onde notas vossas assim duram uns {2:.0f} m.</translation>
    </message>
    <message>
      <source>without a word of length</source>
      <translation>sem palavra de comprimento</translation>
    </message>
    <message>
      <source>Said {0:.1f} s before the corner, {1:.0f} m at that speed; you like {2:.1f} s.</source>
      <translation>Dito {0:.1f} s antes da curva, {1:.0f} m àquela velocidade; gostam de {2:.1f} s.</translation>
    </message>
    <message>
      <source>{0:.1f} s before</source>
      <translation>{0:.1f} s antes</translation>
    </message>
    <message>
      <source>you like {0:.1f} s</source>
      <translation>gostam de {0:.1f} s</translation>
    </message>
    <message>
      <source>To come in time it is called {0:.0f} m before, at “{1}”.</source>
      <translation>Para vir a tempo chama-se {0:.0f} m antes, em “{1}”.</translation>
    </message>
    <message>
      <source>The call before has {0} words; “{1}” could go.</source>
      <translation>O ditado anterior tem {0} palavras; “{1}” podia sair.</translation>
    </message>
    <message>
      <source>jump, {0:.2f} s in the air</source>
      <translation>salto, {0:.2f} s no ar</translation>
    </message>
    <message>
      <source>Called jump maybe: it flew for {0:.1f} s at {1:.0f} km/h.</source>
      <translation>Ditado talvez salto: voou {0:.1f} s a {1:.0f} km/h.</translation>
    </message>
    <message>
      <source>Called jump maybe: at {0:.0f} km/h it did not fly; by the load felt it would above {1:.0f} km/h.</source>
      <translation>Ditado talvez salto: a {0:.0f} km/h não voou; pelo peso sentido voaria acima de {1:.0f} km/h.</translation>
    </message>
    <message>
      <source>Called jump maybe: at {0:.0f} km/h the car did not leave the ground.</source>
      <translation>Ditado talvez salto: a {0:.0f} km/h o carro não saiu do chão.</translation>
    </message>
    <message>
      <source>no {0} was felt between {1:.2f} and {2:.2f} km</source>
      <translation>não se sentiu nada assim ({0}) entre {1:.2f} e {2:.2f} km</translation>
    </message>
    <message>
      <source>the car stayed on the ground at {0:.0f} km/h; by the load felt it would fly above {1:.0f} km/h</source>
      <translation>o carro ficou no chão a {0:.0f} km/h; pelo peso sentido voaria acima de {1:.0f} km/h</translation>
    </message>
    <message>
      <source>Called {0}, and {1}.</source>
      <translation>Ditado {0}, e {1}.</translation>
    </message>
    <message>
      <source>Called a crest; it flew for {0:.1f} s at {1:.0f} km/h and landed {2:.0f} m on.</source>
      <translation>Ditado um alto; voou {0:.1f} s a {1:.0f} km/h e caiu {2:.0f} m à frente.</translation>
    </message>
    <message>
      <source>No note calls this jump: {0:.1f} s in the air at {1:.0f} km/h, landing {2:.0f} m on.</source>
      <translation>Nenhuma nota dita este salto: {0:.1f} s no ar a {1:.0f} km/h, a cair {2:.0f} m à frente.</translation>
    </message>
    <message>
      <source>a crest of about {0:.0f} m radius</source>
      <translation>um alto de cerca de {0:.0f} m de raio</translation>
    </message>
    <message>
      <source>a dip</source>
      <translation>uma depressão</translation>
    </message>
    <message>
      <source>a bump</source>
      <translation>uma lomba</translation>
    </message>
    <message>
      <source>; by the load felt it would fly above {0:.0f} km/h</source>
      <translation>; pelo peso sentido voaria acima de {0:.0f} km/h</translation>
    </message>
    <message>
      <source>No note calls {0} here, met at {1:.0f} km/h{2}.</source>
      <translation>Nenhuma nota dita {0} aqui, a {1:.0f} km/h{2}.</translation>
    </message>
    <message>
      <source>Written {0}, but what was said sounds like {1}, at {2} of the recorded words. One of the two is wrong: listen, and decide which.</source>
      <translation>Escrito {0}, mas o que se disse soa a {1}, aos {2} das palavras gravadas. Uma das duas está errada: ouçam, e decidam qual.</translation>
    </message>
    <message>
      <source>a hazard that stays: stones inside, a new rut, water</source>
      <translation>um perigo que fica: pedras dentro, um rego novo, água</translation>
    </message>
    <message>
      <source>for the next pass only: ice, fog, dust, as others report it</source>
      <translation>só para a próxima passagem: gelo, nevoeiro, pó, como outros avisam</translation>
    </message>
    <message>
      <source>Add by hand</source>
      <translation>Acrescentar à mão</translation>
    </message>
    <message>
      <source>in your words: stones inside on exit</source>
      <translation>por palavras vossas: pedras dentro à saída</translation>
    </message>
    <message>
      <source>What it is</source>
      <translation>O que é</translation>
    </message>
    <message>
      <source>from</source>
      <translation>de</translation>
    </message>
    <message>
      <source>until</source>
      <translation>até</translation>
    </message>
    <message>
      <source>{0} kilometre</source>
      <translation>{0} quilómetro</translation>
    </message>
    <message>
      <source>What did the car meet that no sensor saw?</source>
      <translation>O que encontrou o carro que nenhum sensor viu?</translation>
    </message>
    <message>
      <source>It goes on the road, the strip and the change card, never into the book's own text: E edits a note.</source>
      <translation>Fica na estrada, na faixa e no cartão de alterações, nunca no texto do caderno: E edita uma nota.</translation>
    </message>
    <message>
      <source>Take the chosen one away</source>
      <translation>Retirar o escolhido</translation>
    </message>
    <message>
      <source>Add it</source>
      <translation>Acrescentar</translation>
    </message>
    <message>
      <source>–{0:.2f}</source>
      <translation>–{0:.2f}</translation>
    </message>
    <message>
      <source>next pass only</source>
      <translation>só na próxima passagem</translation>
    </message>
    <message>
      <source>{0:.2f}{1} km, {2}: {3}</source>
      <translation>{0:.2f}{1} km, {2}: {3}</translation>
    </message>
    <message>
      <source>What was said, held against the notes</source>
      <translation>O que foi dito, comparado com as notas</translation>
    </message>
    <message>
      <source>Of {0} notes {1} were said as written, {2} otherwise, {3} not, {4} twice; {5} came behind a later note.</source>
      <translation>De {0} notas, {1} foram ditas como estão escritas, {2} de outra forma, {3} não foram ditas, {4} duas vezes; {5} vieram depois de uma nota posterior.</translation>
    </message>
    <message>
      <source>said otherwise, {0:.0%} sure</source>
      <translation>dito de outra forma, {0:.0%} de certeza</translation>
    </message>
    <message>
      <source>not said, {0:.0%} sure</source>
      <translation>não dito, {0:.0%} de certeza</translation>
    </message>
    <message>
      <source>said twice</source>
      <translation>dito duas vezes</translation>
    </message>
    <message>
      <source>said as written</source>
      <translation>dito como está escrito</translation>
    </message>
    <message>
      <source>heard</source>
      <translation>ouvida</translation>
    </message>
    <message>
      <source>perhaps heard, {0:.0%} sure when</source>
      <translation>talvez ouvida, {0:.0%} certo quando</translation>
    </message>
    <message>
      <source>not heard</source>
      <translation>não ouvida</translation>
    </message>
    <message>
      <source>, late by {0} words</source>
      <translation>, com {0} palavras de atraso</translation>
    </message>
    <message>
      <source>Page {0}, line {1}</source>
      <translation>Página {0}, linha {1}</translation>
    </message>
    <message>
      <source>Something in Mirkle broke ({0}). Your decisions are kept. If the window looks wrong, close it and open the stage again.</source>
      <translation>Algo no Mirkle avariou ({0}). As vossas decisões estão guardadas. Se a janela parecer errada, fechem-na e abram o troço outra vez.</translation>
    </message>
    <message>
      <source>It is written down in {0}.</source>
      <translation>Está anotado em {0}.</translation>
    </message>
    <message>
      <source>The new notes as text…</source>
      <translation>As notas novas em texto…</translation>
    </message>
    <message>
      <source>Text (*.txt)</source>
      <translation>Texto (*.txt)</translation>
    </message>
    <message>
      <source>The findings as a table…</source>
      <translation>Os achados em tabela…</translation>
    </message>
    <message>
      <source>Table (*.csv)</source>
      <translation>Tabela (*.csv)</translation>
    </message>
    <message>
      <source>The review to read in a browser…</source>
      <translation>A revisão para ler no navegador de internet…</translation>
    </message>
    <message>
      <source>Page (*.html)</source>
      <translation>Página (*.html)</translation>
    </message>
    <message>
      <source>Way-points and the driven line…</source>
      <translation>Pontos e a linha feita…</translation>
    </message>
    <message>
      <source>GPX (*.gpx)</source>
      <translation>GPX (*.gpx)</translation>
    </message>
    <message>
      <source>The review for other programs…</source>
      <translation>A revisão para outros programas…</translation>
    </message>
    <message>
      <source>JSON (*.json)</source>
      <translation>JSON (*.json)</translation>
    </message>
    <message>
      <source>Book</source>
      <translation>Caderno</translation>
    </message>
    <message>
      <source>Tick each change when it stands in your paper book (Space).</source>
      <translation>Assinalem cada alteração quando estiver no caderno de papel (Espaço).</translation>
    </message>
    <message>
      <source>Changes by page and line, to be ticked when they are copied</source>
      <translation>Alterações por página e linha, a assinalar quando copiadas</translation>
    </message>
    <message>
      <source>Change card…</source>
      <translation>Cartão de alterações…</translation>
    </message>
    <message>
      <source>See the card of changes, and print it</source>
      <translation>Ver o cartão de alterações e imprimi-lo</translation>
    </message>
    <message>
      <source>New book…</source>
      <translation>Caderno novo…</translation>
    </message>
    <message>
      <source>See the whole new book, and print it</source>
      <translation>Ver todo o caderno novo e imprimi-lo</translation>
    </message>
    <message>
      <source>More to take away  ▾</source>
      <translation>Levar mais  ▾</translation>
    </message>
    <message>
      <source>Compare editions…</source>
      <translation>Comparar edições…</translation>
    </message>
    <message>
      <source>What was decided…</source>
      <translation>O que se decidiu…</translation>
    </message>
    <message>
      <source>The notes for another co-driver…</source>
      <translation>As notas para outro navegador…</translation>
    </message>
    <message>
      <source>pages as in the notes</source>
      <translation>páginas como nas notas</translation>
    </message>
    <message>
      <source> lines a page</source>
      <translation> linhas por página</translation>
    </message>
    <message>
      <source>Lines a page of the paper book, 0 for the pages of the notes</source>
      <translation>Linhas por página do caderno, 0 para as páginas das notas</translation>
    </message>
    <message>
      <source>How many lines your paper book has on a page: list, card and book go by it</source>
      <translation>Quantas linhas tem cada página do caderno de papel: lista, cartão e caderno seguem-no</translation>
    </message>
    <message>
      <source>A page begins here</source>
      <translation>Aqui começa uma página</translation>
    </message>
    <message>
      <source>Begin a page of the paper book at the chosen note, or end that (G)</source>
      <translation>Começar uma página do caderno na nota escolhida, ou desfazer isso (G)</translation>
    </message>
    <message>
      <source>Your paper book:</source>
      <translation>O vosso caderno:</translation>
    </message>
    <message>
      <source>Nothing marked yet</source>
      <translation>Ainda nada marcado</translation>
    </message>
    <message>
      <source>All {0} changes are copied into the book</source>
      <translation>As {0} alterações estão copiadas no caderno</translation>
    </message>
    <message>
      <source>1 change to copy into the book</source>
      <translation>1 alteração para copiar para o caderno</translation>
    </message>
    <message>
      <source>{0} changes to copy into the book</source>
      <translation>{0} alterações para copiar para o caderno</translation>
    </message>
    <message>
      <source>page {0}, line {1}     {2}   →   {3}</source>
      <translation>página {0}, linha {1}     {2}   →   {3}</translation>
    </message>
    <message>
      <source>struck out</source>
      <translation>riscado</translation>
    </message>
    <message>
      <source>rehearsed</source>
      <translation>ensaiada</translation>
    </message>
    <message>
      <source>Written: {0}</source>
      <translation>Escrito: {0}</translation>
    </message>
    <message>
      <source>time</source>
      <translation>tempo</translation>
    </message>
    <message>
      <source>latitude</source>
      <translation>latitude</translation>
    </message>
    <message>
      <source>longitude</source>
      <translation>longitude</translation>
    </message>
    <message>
      <source>height</source>
      <translation>altura</translation>
    </message>
    <message>
      <source>speed</source>
      <translation>a velocidade</translation>
    </message>
    <message>
      <source>course</source>
      <translation>rumo</translation>
    </message>
    <message>
      <source>accuracy of the position</source>
      <translation>precisão da posição</translation>
    </message>
    <message>
      <source>acceleration along the car</source>
      <translation>aceleração ao longo do carro</translation>
    </message>
    <message>
      <source>acceleration across the car</source>
      <translation>aceleração transversal</translation>
    </message>
    <message>
      <source>acceleration upwards</source>
      <translation>aceleração para cima</translation>
    </message>
    <message>
      <source>yaw rate</source>
      <translation>guinada</translation>
    </message>
    <message>
      <source>brake</source>
      <translation>travão</translation>
    </message>
    <message>
      <source>throttle</source>
      <translation>acelerador</translation>
    </message>
    <message>
      <source>steering angle</source>
      <translation>ângulo do volante</translation>
    </message>
    <message>
      <source>wheel speed</source>
      <translation>velocidade das rodas</translation>
    </message>
    <message>
      <source>day and time of a spreadsheet</source>
      <translation>dia e hora de uma folha de cálculo</translation>
    </message>
    <message>
      <source>both latitude and longitude in one cell</source>
      <translation>ambas, latitude e longitude numa só célula</translation>
    </message>
    <message>
      <source>What do the columns hold?</source>
      <translation>Que há nas colunas?</translation>
    </message>
    <message>
      <source>What do the columns of {0} hold?</source>
      <translation>Que há nas colunas de {0}?</translation>
    </message>
    <message>
      <source>Say it once: the next file with the same columns is read in the same way. What is left open is not used. Tab goes on, the first letters choose.</source>
      <translation>Digam-no uma vez: o próximo ficheiro com as mesmas colunas lê-se da mesma maneira. O que ficar em branco não é usado. Tab avança, as primeiras letras escolhem.</translation>
    </message>
    <message>
      <source>Column</source>
      <translation>Coluna</translation>
    </message>
    <message>
      <source>Its first rows</source>
      <translation>Primeiras linhas</translation>
    </message>
    <message>
      <source>Holds</source>
      <translation>Tem</translation>
    </message>
    <message>
      <source>In</source>
      <translation>Em</translation>
    </message>
    <message>
      <source>column {0}</source>
      <translation>coluna {0}</translation>
    </message>
    <message>
      <source>Back: leave the file out</source>
      <translation>Voltar: deixar o ficheiro de fora</translation>
    </message>
    <message>
      <source>Read it so</source>
      <translation>Ler assim</translation>
    </message>
    <message>
      <source>not used</source>
      <translation>não usada</translation>
    </message>
    <message>
      <source>What {0} holds</source>
      <translation>Que há em {0}</translation>
    </message>
    <message>
      <source>The unit of {0}</source>
      <translation>A unidade de {0}</translation>
    </message>
    <message>
      <source>as a part of one</source>
      <translation>como parte de um</translation>
    </message>
    <message>
      <source>as a clock shows it</source>
      <translation>como num relógio</translation>
    </message>
    <message>
      <source>Two columns are said to hold the same: {0}.</source>
      <translation>Duas colunas dizem ter o mesmo: {0}.</translation>
    </message>
    <message>
      <source>Still missing: {0}.</source>
      <translation>Ainda falta: {0}.</translation>
    </message>
    <message>
      <source>That is enough for a run.</source>
      <translation>Chega para uma passagem.</translation>
    </message>
    <message>
      <source>Stage</source>
      <translation>Troço</translation>
    </message>
    <message>
      <source>Go</source>
      <translation>Ir</translation>
    </message>
    <message>
      <source>Decide</source>
      <translation>Decidir</translation>
    </message>
    <message>
      <source>Hear</source>
      <translation>Ouvir</translation>
    </message>
    <message>
      <source>Line up</source>
      <translation>Alinhar</translation>
    </message>
    <message>
      <source>By eye</source>
      <translation>A olho</translation>
    </message>
    <message>
      <source>Rehearse</source>
      <translation>Ensaiar</translation>
    </message>
    <message>
      <source>Passes</source>
      <translation>Passagens</translation>
    </message>
    <message>
      <source>View</source>
      <translation>Ver</translation>
    </message>
    <message>
      <source>Help</source>
      <translation>Ajuda</translation>
    </message>
    <message>
      <source>Open files…</source>
      <translation>Abrir ficheiros…</translation>
    </message>
    <message>
      <source>New stage</source>
      <translation>Troço novo</translation>
    </message>
    <message>
      <source>Your stages…</source>
      <translation>Os vossos troços…</translation>
    </message>
    <message>
      <source>Type the notes in…</source>
      <translation>Escrever as notas…</translation>
    </message>
    <message>
      <source>Show the demo stage</source>
      <translation>Mostrar o troço de demonstração</translation>
    </message>
    <message>
      <source>Quit</source>
      <translation>Sair</translation>
    </message>
    <message>
      <source>Next finding</source>
      <translation>Próximo achado</translation>
    </message>
    <message>
      <source>Finding before</source>
      <translation>Achado anterior</translation>
    </message>
    <message>
      <source>First finding</source>
      <translation>Primeiro achado</translation>
    </message>
    <message>
      <source>Last finding</source>
      <translation>Último achado</translation>
    </message>
    <message>
      <source>Next danger that is left</source>
      <translation>Próximo perigo que falta</translation>
    </message>
    <message>
      <source>Next note</source>
      <translation>Próxima nota</translation>
    </message>
    <message>
      <source>Note before</source>
      <translation>Nota anterior</translation>
    </message>
    <message>
      <source>Find a finding or a note…</source>
      <translation>Procurar um achado ou uma nota…</translation>
    </message>
    <message>
      <source>Gather</source>
      <translation>Reunir</translation>
    </message>
    <message>
      <source>Compare</source>
      <translation>Comparar</translation>
    </message>
    <message>
      <source>Mark it: write the change into the book</source>
      <translation>Marcar: escrever a mudança no caderno</translation>
    </message>
    <message>
      <source>Keep the note as it is written</source>
      <translation>Manter a nota como está escrita</translation>
    </message>
    <message>
      <source>Talk it over later</source>
      <translation>Conversar mais tarde</translation>
    </message>
    <message>
      <source>Look at it on the video: plays it where there is one</source>
      <translation>Ver no vídeo: mostra-o se houver</translation>
    </message>
    <message>
      <source>Edit what to write, on any note</source>
      <translation>Editar o que escrever, em qualquer nota</translation>
    </message>
    <message>
      <source>Who says so</source>
      <translation>Quem o diz</translation>
    </message>
    <message>
      <source>A word on it</source>
      <translation>Uma palavra sobre isso</translation>
    </message>
    <message>
      <source>Add a hazard, or a condition for the next pass…</source>
      <translation>Juntar um perigo, ou uma condição para a próxima passagem…</translation>
    </message>
    <message>
      <source>Parts that don't count…</source>
      <translation>Partes que não contam…</translation>
    </message>
    <message>
      <source>Decisions without a place…</source>
      <translation>Decisões sem lugar…</translation>
    </message>
    <message>
      <source>Undo</source>
      <translation>Desfazer</translation>
    </message>
    <message>
      <source>Redo</source>
      <translation>Refazer</translation>
    </message>
    <message>
      <source>Hear it from before the call, or stop</source>
      <translation>Ouvir desde antes da chamada, ou parar</translation>
    </message>
    <message>
      <source>One picture on</source>
      <translation>Uma imagem à frente</translation>
    </message>
    <message>
      <source>One picture back</source>
      <translation>Uma imagem atrás</translation>
    </message>
    <message>
      <source>The video in a window of its own, or back</source>
      <translation>O vídeo em janela própria, ou de volta</translation>
    </message>
    <message>
      <source>Find when each note was called, from the sound</source>
      <translation>Encontrar quando foi dita cada nota, pelo som</translation>
    </message>
    <message>
      <source>Half speed</source>
      <translation>Meia velocidade</translation>
    </message>
    <message>
      <source>The note is right as it is, and on to the next unsure one</source>
      <translation>A nota está bem assim; passar à próxima incerta</translation>
    </message>
    <message>
      <source>Hear a call that was found in the sound</source>
      <translation>Ouvir uma nota encontrada no som</translation>
    </message>
    <message>
      <source>It is as it says: a call, left out, or nothing to keep</source>
      <translation>É como diz: uma nota, uma que faltou, ou nada a guardar</translation>
    </message>
    <message>
      <source>Write down what is said there</source>
      <translation>Escrever o que ali se diz</translation>
    </message>
    <message>
      <source>The next call worth listening to</source>
      <translation>A próxima que vale a pena ouvir</translation>
    </message>
    <message>
      <source>See the note in Compare</source>
      <translation>Ver a nota em Comparar</translation>
    </message>
    <message>
      <source>The next unsure note</source>
      <translation>A próxima nota incerta</translation>
    </message>
    <message>
      <source>Put the note on the bend before</source>
      <translation>Pôr a nota na curva anterior</translation>
    </message>
    <message>
      <source>Put the note on the next bend</source>
      <translation>Pôr a nota na curva seguinte</translation>
    </message>
    <message>
      <source>No bend answers it</source>
      <translation>Nenhuma curva lhe responde</translation>
    </message>
    <message>
      <source>Take the pin out: Mirkle places the note again</source>
      <translation>Tirar o alfinete: o Mirkle volta a colocar a nota</translation>
    </message>
    <message>
      <source>Watch the video, note by note</source>
      <translation>Ver o vídeo, nota a nota</translation>
    </message>
    <message>
      <source>As it was called</source>
      <translation>Como foi ditada</translation>
    </message>
    <message>
      <source>Tighter, one grade for each press</source>
      <translation>Mais fechada, um grau por cada toque</translation>
    </message>
    <message>
      <source>More open</source>
      <translation>Mais aberta</translation>
    </message>
    <message>
      <source>To the other side</source>
      <translation>Para o outro lado</translation>
    </message>
    <message>
      <source>Longer</source>
      <translation>Mais longa</translation>
    </message>
    <message>
      <source>Shorter</source>
      <translation>Mais curta</translation>
    </message>
    <message>
      <source>A note is missing</source>
      <translation>Falta uma nota</translation>
    </message>
    <message>
      <source>A hazard is there</source>
      <translation>Há ali um perigo</translation>
    </message>
    <message>
      <source>The note is called now</source>
      <translation>A nota é ditada agora</translation>
    </message>
    <message>
      <source>The next note that is open</source>
      <translation>A próxima nota em aberto</translation>
    </message>
    <message>
      <source>Faster, or slower</source>
      <translation>Mais depressa, ou mais devagar</translation>
    </message>
    <message>
      <source>A page of the paper book begins at the note, or no longer</source>
      <translation>Uma página do caderno começa na nota, ou deixa de começar</translation>
    </message>
    <message>
      <source>See the change card, and print it…</source>
      <translation>Ver o cartão de alterações e imprimi-lo…</translation>
    </message>
    <message>
      <source>See the new book, and print it…</source>
      <translation>Ver o caderno novo e imprimi-lo…</translation>
    </message>
    <message>
      <source>Start, or stop</source>
      <translation>Começar, ou parar</translation>
    </message>
    <message>
      <source>It is called now</source>
      <translation>É ditada agora</translation>
    </message>
    <message>
      <source>Read along</source>
      <translation>Ler</translation>
    </message>
    <message>
      <source>Call it</source>
      <translation>Ditar</translation>
    </message>
    <message>
      <source>Listen</source>
      <translation>Ouvir a voz</translation>
    </message>
    <message>
      <source>The whole stage, or the changed places</source>
      <translation>O troço inteiro, ou os sítios alterados</translation>
    </message>
    <message>
      <source>We are both here</source>
      <translation>Estamos cá os dois</translation>
    </message>
    <message>
      <source>Calls are heard instead of pressed</source>
      <translation>O ditado é ouvido em vez de premido</translation>
    </message>
    <message>
      <source>Half speed, or not</source>
      <translation>Meia velocidade, ou não</translation>
    </message>
    <message>
      <source>The worst place again</source>
      <translation>O pior sítio outra vez</translation>
    </message>
    <message>
      <source>Keep the change</source>
      <translation>Manter a mudança</translation>
    </message>
    <message>
      <source>Put back what stood</source>
      <translation>Repor o que estava</translation>
    </message>
    <message>
      <source>Correct further</source>
      <translation>Corrigir mais</translation>
    </message>
    <message>
      <source>Talk it over</source>
      <translation>Conversar</translation>
    </message>
    <message>
      <source>See it in Compare</source>
      <translation>Ver em Comparar</translation>
    </message>
    <message>
      <source>The season's counts…</source>
      <translation>As contas da época…</translation>
    </message>
    <message>
      <source>Road, plan or video</source>
      <translation>Estrada, planta ou vídeo</translation>
    </message>
    <message>
      <source>Nearer</source>
      <translation>Mais perto</translation>
    </message>
    <message>
      <source>Farther</source>
      <translation>Mais longe</translation>
    </message>
    <message>
      <source>Light or night</source>
      <translation>Claro ou noite</translation>
    </message>
    <message>
      <source>Settings…</source>
      <translation>Definições…</translation>
    </message>
    <message>
      <source>All keys</source>
      <translation>Todas as teclas</translation>
    </message>
    <message>
      <source>The job in order</source>
      <translation>O trabalho por ordem</translation>
    </message>
    <message>
      <source>What the marks mean</source>
      <translation>O que querem dizer as marcas</translation>
    </message>
    <message>
      <source>Before you trust a number</source>
      <translation>Antes de confiar num número</translation>
    </message>
    <message>
      <source>About Mirkle</source>
      <translation>Sobre o Mirkle</translation>
    </message>
    <message>
      <source>This makes the note faster: one of you has said yes, the other presses Enter too.</source>
      <translation>Isto torna a nota mais rápida: um disse que sim, o outro carrega também em Enter.</translation>
    </message>
    <message>
      <source>The sound can't be played here: a system library is missing</source>
      <translation>O som não pode ser ouvido aqui: falta uma biblioteca do sistema</translation>
    </message>
    <message>
      <source>The sound can't be played: {0}</source>
      <translation>O som não pode ser ouvido: {0}</translation>
    </message>
    <message>
      <source>The sound ends at {0:.1f} km, before the finish.</source>
      <translation>O som acaba aos {0:.1f} km, antes da chegada.</translation>
    </message>
    <message>
      <source>Video: {0}</source>
      <translation>Vídeo: {0}</translation>
    </message>
    <message>
      <source>We have read this</source>
      <translation>Lemos isto</translation>
    </message>
    <message>
      <source>Keys</source>
      <translation>Teclas</translation>
    </message>
    <message>
      <source>Esc leaves a field. Drag over the whole stage with Shift held for a part that does not count.</source>
      <translation>Esc sai de um campo. Arraste sobre o troço inteiro com Shift para uma parte que não conta.</translation>
    </message>
    <message>
      <source>Back to work</source>
      <translation>De volta ao trabalho</translation>
    </message>
    <message>
      <source>danger: the road is tighter, the other way, or flies, and the note does not say so</source>
      <translation>perigo: a estrada é mais fechada, vai para o outro lado ou voa, e a nota não o diz</translation>
    </message>
    <message>
      <source>worth changing</source>
      <translation>vale a pena mudar</translation>
    </message>
    <message>
      <source>worth a second look</source>
      <translation>a ver outra vez</translation>
    </message>
    <message>
      <source>time to be had, for both of you to decide</source>
      <translation>tempo a ganhar, a decidir pelos dois</translation>
    </message>
    <message>
      <source>a remark</source>
      <translation>um reparo</translation>
    </message>
    <message>
      <source>marked</source>
      <translation>marcado</translation>
    </message>
    <message>
      <source>kept as written</source>
      <translation>mantido como está</translation>
    </message>
    <message>
      <source>to talk over, or said in the car</source>
      <translation>a conversar, ou dito no carro</translation>
    </message>
    <message>
      <source>to look at on the video, or seen there, with what was said of it</source>
      <translation>a ver no vídeo, ou visto lá, com o que dele se disse</translation>
    </message>
    <message>
      <source>a hazard that you added</source>
      <translation>um perigo que juntaram</translation>
    </message>
    <message>
      <source>a condition for the next pass only</source>
      <translation>uma condição só para a próxima passagem</translation>
    </message>
    <message>
      <source>On the road, fill beyond the bracket: the note is too fast. Room inside it: too slow. Hatched: not measured, or it does not count.</source>
      <translation>Na estrada, cheio além do colchete: a nota é rápida de mais. Espaço dentro dele: lenta de mais. Tracejado: não medido, ou não conta.</translation>
    </message>
    <message>
      <source>GPL-3.0-or-later. Nothing is fetched while it runs.</source>
      <translation>GPL-3.0-or-later. Nada é descarregado enquanto corre.</translation>
    </message>
    <message>
      <source>Your stages are kept in {0}, your settings in {1}.</source>
      <translation>Os vossos troços ficam em {0}, as preferências em {1}.</translation>
    </message>
    <message>
      <source>jump</source>
      <translation>salto</translation>
    </message>
    <message>
      <source>crest</source>
      <translation>alto</translation>
    </message>
    <message>
      <source>bump</source>
      <translation>lomba</translation>
    </message>
    <message>
      <source>dip</source>
      <translation>depressão</translation>
    </message>
    <message>
      <source>Your grades, with the one called and where this corner lies</source>
      <translation>As vossas notas, com a ditada e o lugar desta curva</translation>
    </message>
    <message>
      <source>the distance, called and met</source>
      <translation>a distância, ditada e encontrada</translation>
    </message>
    <message>
      <source>called</source>
      <translation>ditado</translation>
    </message>
    <message>
      <source>met</source>
      <translation>foi</translation>
    </message>
    <message>
      <source>you like</source>
      <translation>gostam</translation>
    </message>
    <message>
      <source>here</source>
      <translation>aqui</translation>
    </message>
    <message>
      <source>from the call to the corner, in seconds</source>
      <translation>do ditado à curva, em segundos</translation>
    </message>
    <message>
      <source>your grades; the numbers are metres of radius</source>
      <translation>as vossas notas; os números são metros de raio</translation>
    </message>
    <message>
      <source>met {0:.0f} ± {1:.0f} m</source>
      <translation>foi {0:.0f} ± {1:.0f} m</translation>
    </message>
    <message>
      <source>called, and {0}</source>
      <translation>ditado, e {0}</translation>
    </message>
    <message>
      <source>{0:.1f}{1}</source>
      <translation>{0:.1f}{1}</translation>
    </message>
    <message>
      <source>the load felt; at the lower line the car weighs nothing</source>
      <translation>o peso sentido; na linha de baixo o carro não pesa nada</translation>
    </message>
    <message>
      <source>Speed, braking and how tight it was, through this place</source>
      <translation>Velocidade, travagem e quão fechada foi, neste lugar</translation>
    </message>
    <message>
      <source>speed, {0:.0f} to {1:.0f} km/h</source>
      <translation>velocidade, {0:.0f} a {1:.0f} km/h</translation>
    </message>
    <message>
      <source>braking, up to {0:.1f} g</source>
      <translation>travagem, até {0:.1f} g</translation>
    </message>
    <message>
      <source>how tight</source>
      <translation>quão fechada</translation>
    </message>
    <message>
      <source>{0:.2f} km</source>
      <translation>{0:.2f} km</translation>
    </message>
    <message>
      <source>The place from above</source>
      <translation>O lugar visto de cima</translation>
    </message>
    <message>
      <source>from above</source>
      <translation>visto de cima</translation>
    </message>
    <message>
      <source>Let go to take in {0}</source>
      <translation>Larguem para receber {0}</translation>
    </message>
    <message>
      <source>Let go to take in {0} files</source>
      <translation>Larguem para receber {0} ficheiros</translation>
    </message>
    <message>
      <source>Two editions</source>
      <translation>Duas edições</translation>
    </message>
    <message>
      <source>What differs, by line</source>
      <translation>O que difere, por linha</translation>
    </message>
    <message>
      <source>The first edition</source>
      <translation>A primeira edição</translation>
    </message>
    <message>
      <source>The second edition</source>
      <translation>A segunda edição</translation>
    </message>
    <message>
      <source>Back</source>
      <translation>Voltar</translation>
    </message>
    <message>
      <source>line {0}     {1}   →   {2}</source>
      <translation>linha {0}     {1}   →   {2}</translation>
    </message>
    <message>
      <source>nothing</source>
      <translation>nada</translation>
    </message>
    <message>
      <source>What was decided</source>
      <translation>O que se decidiu</translation>
    </message>
    <message>
      <source>Decisions, the latest first</source>
      <translation>Decisões, as últimas primeiro</translation>
    </message>
    <message>
      <source>What was decided, the latest first</source>
      <translation>O que se decidiu, o último primeiro</translation>
    </message>
    <message>
      <source>About the pass itself: its files, or what was set by hand</source>
      <translation>Sobre a própria passagem: os seus ficheiros, ou o que se pôs à mão</translation>
    </message>
    <message>
      <source>taken away</source>
      <translation>retirado</translation>
    </message>
    <message>
      <source>{0} at {1:.2f} km: {2}{3}{4}</source>
      <translation>{0} aos {1:.2f} km: {2}{3}{4}</translation>
    </message>
    <message>
      <source>page {0}, line {1}</source>
      <translation>página {0}, linha {1}</translation>
    </message>
    <message>
      <source>{0}: called at {1}, by your key: {2}</source>
      <translation>{0}: ditada a {1}, pela vossa tecla: {2}</translation>
    </message>
    <message>
      <source>{0}: {1} behind it: {2}{3}{4}</source>
      <translation>{0}: {1} a seguir: {2}{3}{4}</translation>
    </message>
    <message>
      <source>seen on the video</source>
      <translation>visto no vídeo</translation>
    </message>
    <message>
      <source>Write instead</source>
      <translation>Escrever em vez</translation>
    </message>
    <message>
      <source>What to write instead</source>
      <translation>O que escrever em vez</translation>
    </message>
    <message>
      <source>Mark it  ⏎</source>
      <translation>Marcar  ⏎</translation>
    </message>
    <message>
      <source>Write this into the book (Enter)</source>
      <translation>Escrever isto no caderno (Enter)</translation>
    </message>
    <message>
      <source>Keep  K</source>
      <translation>Manter  K</translation>
    </message>
    <message>
      <source>Keep the note as it is written (K)</source>
      <translation>Manter a nota como está (K)</translation>
    </message>
    <message>
      <source>Talk  T</source>
      <translation>Falar  T</translation>
    </message>
    <message>
      <source>Put it aside to talk over (T)</source>
      <translation>Pôr de lado para falar (T)</translation>
    </message>
    <message>
      <source>Video  V</source>
      <translation>Vídeo  V</translation>
    </message>
    <message>
      <source>Look at it on the video before deciding (V)</source>
      <translation>Ver no vídeo antes de decidir (V)</translation>
    </message>
    <message>
      <source>Who says so (B goes round)</source>
      <translation>Quem o diz (B vai rodando)</translation>
    </message>
    <message>
      <source>a word on it  R</source>
      <translation>uma palavra  R</translation>
    </message>
    <message>
      <source>A remark on the decision</source>
      <translation>Um reparo à decisão</translation>
    </message>
    <message>
      <source>Write instead of “{0}”</source>
      <translation>Escrever em vez de “{0}”</translation>
    </message>
    <message>
      <source>Reads: {0}.

Nothing was found on this note. N goes to the next finding; E edits it.</source>
      <translation>Lê-se: {0}.

Nada se encontrou nesta nota. N vai para o achado seguinte; E edita-a.</translation>
    </message>
    <message>
      <source>page {0}, line {1} · {2:.2f} km · recording {3}</source>
      <translation>página {0}, linha {1} · {2:.2f} km · gravação {3}</translation>
    </message>
    <message>
      <source>{0} · {1:.0%} sure · {2}{3}</source>
      <translation>{0} · {1:.0%} certo · {2}{3}</translation>
    </message>
    <message>
      <source>with what you typed before</source>
      <translation>com o que já tinham escrito</translation>
    </message>
    <message>
      <source>turned {0:.0f}° over {1:.0f} m</source>
      <translation>rodou {0:.0f}° em {1:.0f} m</translation>
    </message>
    <message>
      <source>{0:.0%} sure that the note belongs here</source>
      <translation>{0:.0%} certo de que a nota é daqui</translation>
    </message>
    <message>
      <source>to the next: called {0}, was {1:.0f} m</source>
      <translation>até à seguinte: ditado {0}, foi {1:.0f} m</translation>
    </message>
    <message>
      <source>before it: called {0}, was {1:.0f} m</source>
      <translation>antes dela: ditado {0}, foi {1:.0f} m</translation>
    </message>
    <message>
      <source>also here: {0}</source>
      <translation>também aqui: {0}</translation>
    </message>
    <message>
      <source>As it is written. Edit it (E) if something else shall stand there.</source>
      <translation>Como está escrito. Edite (E) se deve ficar outra coisa.</translation>
    </message>
    <message>
      <source>Reads: {0}</source>
      <translation>Lê-se: {0}</translation>
    </message>
    <message>
      <source>said there: “{0}”</source>
      <translation>dito ali: “{0}”</translation>
    </message>
    <message>
      <source>said {0:.1f} s before</source>
      <translation>dito {0:.1f} s antes</translation>
    </message>
    <message>
      <source>decided or not</source>
      <translation>decididos ou não</translation>
    </message>
    <message>
      <source>not decided yet</source>
      <translation>por decidir</translation>
    </message>
    <message>
      <source>to talk over</source>
      <translation>a falar</translation>
    </message>
    <message>
      <source>to look at on the video</source>
      <translation>a ver no vídeo</translation>
    </message>
    <message>
      <source>most risk first</source>
      <translation>maior risco primeiro</translation>
    </message>
    <message>
      <source>in stage order</source>
      <translation>pela ordem do troço</translation>
    </message>
    <message>
      <source>in page order</source>
      <translation>por ordem de página</translation>
    </message>
    <message>
      <source>Find</source>
      <translation>Procurar</translation>
    </message>
    <message>
      <source>words of a note or a finding, page and line as 3.7, or a note's number as #45</source>
      <translation>palavras de uma nota ou de um achado, página e linha como 3.7, ou o número de uma nota como #45</translation>
    </message>
    <message>
      <source>What to find</source>
      <translation>O que procurar</translation>
    </message>
    <message>
      <source>Decided or not</source>
      <translation>Decidido ou não</translation>
    </message>
    <message>
      <source>Which findings</source>
      <translation>Que achados</translation>
    </message>
    <message>
      <source>Order of findings</source>
      <translation>Ordem dos achados</translation>
    </message>
    <message>
      <source>What was found</source>
      <translation>O que se encontrou</translation>
    </message>
    <message>
      <source>Go there  ⏎</source>
      <translation>Ir para lá  ⏎</translation>
    </message>
    <message>
      <source>{0} found</source>
      <translation>{0} encontrados</translation>
    </message>
    <message>
      <source>reconnaissance</source>
      <translation>reconhecimento</translation>
    </message>
    <message>
      <source>first pass</source>
      <translation>primeira passagem</translation>
    </message>
    <message>
      <source>later pass</source>
      <translation>passagem posterior</translation>
    </message>
    <message>
      <source>what comes first</source>
      <translation>o que vem primeiro</translation>
    </message>
    <message>
      <source>which way the grades run</source>
      <translation>em que sentido vão os graus</translation>
    </message>
    <message>
      <source>direction first, left 4</source>
      <translation>lado primeiro, esquerda 4</translation>
    </message>
    <message>
      <source>grade first, 4 left</source>
      <translation>nota primeiro, 4 esquerda</translation>
    </message>
    <message>
      <source>1 is tight</source>
      <translation>1 é fechada</translation>
    </message>
    <message>
      <source>1 is nearly flat out</source>
      <translation>1 é quase a fundo</translation>
    </message>
    <message>
      <source>First, Gather</source>
      <translation>Primeiro, Reunir</translation>
    </message>
    <message>
      <source>your notes and the run. Mirkle finds the start, the driven line and the place of every note.</source>
      <translation>as vossas notas e a passagem. O Mirkle encontra a partida, a linha feita e o lugar de cada nota.</translation>
    </message>
    <message>
      <source>then Line up</source>
      <translation>depois Alinhar</translation>
    </message>
    <message>
      <source>see that every note lies on its bend: the few that are unsure come first, and a key mends them.</source>
      <translation>ver que cada nota está na sua curva: as poucas incertas vêm primeiro, e uma tecla corrige-as.</translation>
    </message>
    <message>
      <source>then Compare</source>
      <translation>depois Comparar</translation>
    </message>
    <message>
      <source>note by note, what was called with what the car met, the most dangerous first. Mark it, keep it, or talk it over: one key each, and every one can be undone.</source>
      <translation>nota a nota, o que se ditou com o que o carro encontrou, o mais perigoso primeiro. Marcar, manter, ou falar disso: uma tecla cada, e tudo se desfaz.</translation>
    </message>
    <message>
      <source>then Book</source>
      <translation>depois Caderno</translation>
    </message>
    <message>
      <source>the new notes in your own hand, and a card of the changes by page and line to copy with a pencil.</source>
      <translation>as notas novas na vossa escrita, e um cartão das alterações por página e linha para copiar a lápis.</translation>
    </message>
    <message>
      <source>then Rehearse</source>
      <translation>depois Ensaiar</translation>
    </message>
    <message>
      <source>the changed places at their coming pace, until each was called in time twice.</source>
      <translation>os sítios alterados ao andamento que vem, até cada um ser ditado a tempo duas vezes.</translation>
    </message>
    <message>
      <source>then Passes</source>
      <translation>depois Passagens</translation>
    </message>
    <message>
      <source>after the next pass: whether each change was right, is still too fast, or is now too slow.</source>
      <translation>depois da passagem seguinte: se cada mudança foi certa, é ainda rápida de mais, ou agora lenta de mais.</translation>
    </message>
    <message>
      <source>Choose files…  Ctrl+O</source>
      <translation>Escolher…  Ctrl+O</translation>
    </message>
    <message>
      <source>Show me the demo stage</source>
      <translation>Ver o troço de exemplo</translation>
    </message>
    <message>
      <source>Go on to Compare  ⏎</source>
      <translation>Seguir para Comparar  ⏎</translation>
    </message>
    <message>
      <source>See what was found, the most dangerous first (Enter)</source>
      <translation>Ver o que foi encontrado, o mais perigoso primeiro (Enter)</translation>
    </message>
    <message>
      <source>What went wrong</source>
      <translation>O que correu mal</translation>
    </message>
    <message>
      <source>How you write</source>
      <translation>Como escrevem</translation>
    </message>
    <message>
      <source>How you write: {0}</source>
      <translation>Como escrevem: {0}</translation>
    </message>
    <message>
      <source>This pass</source>
      <translation>Esta passagem</translation>
    </message>
    <message>
      <source>What kind of pass it was</source>
      <translation>Que espécie de passagem foi</translation>
    </message>
    <message>
      <source>Day, time and conditions of the pass</source>
      <translation>Dia, hora e condições da passagem</translation>
    </message>
    <message>
      <source>day, time, dry or wet</source>
      <translation>dia, hora, seco ou molhado</translation>
    </message>
    <message>
      <source>On its clock</source>
      <translation>No seu relógio</translation>
    </message>
    <message>
      <source>Set</source>
      <translation>Acertar</translation>
    </message>
    <message>
      <source>away at</source>
      <translation>partida às</translation>
    </message>
    <message>
      <source>finish at</source>
      <translation>chegada às</translation>
    </message>
    <message>
      <source>{0}, minutes and seconds on the recording's clock</source>
      <translation>{0}, minutos e segundos no relógio da gravação</translation>
    </message>
    <message>
      <source>Minutes and seconds, such as 10:57.2; empty to have it found</source>
      <translation>Minutos e segundos, como 10:57.2; vazio para ser encontrado</translation>
    </message>
    <message>
      <source>Which of {0} drives is the stage?</source>
      <translation>Qual dos {0} percursos é a classificativa?</translation>
    </message>
    <message>
      <source>{0} to {1}, {2:.1f} km</source>
      <translation>{0} a {1}, {2:.1f} km</translation>
    </message>
    <message>
      <source>“{0}” is no time: write minutes and seconds, such as 10:57.2</source>
      <translation>“{0}” não é um tempo: escreva minutos e segundos, como 10:57.2</translation>
    </message>
    <message>
      <source>The finish can't come before the start: set one of them right</source>
      <translation>A chegada não pode ser antes da partida: acerte uma delas</translation>
    </message>
    <message>
      <source>, {0:.0%} sure</source>
      <translation>, {0:.0%} certo</translation>
    </message>
    <message>
      <source>found: {0}{1}</source>
      <translation>encontrado: {0}{1}</translation>
    </message>
    <message>
      <source>let Mirkle tell</source>
      <translation>deixar ao Mirkle</translation>
    </message>
    <message>
      <source>What was read</source>
      <translation>O que se leu</translation>
    </message>
    <message>
      <source>Drop your notes and the recording of the run here</source>
      <translation>Largue aqui as notas e a gravação da passagem</translation>
    </message>
    <message>
      <source>The notes as text or in a document, a note a line, as you write them. The run as a table (time and position at least), a telephone's archive, GPX, NMEA, FIT, TCX, KML, GeoJSON or MDF4. What was said in the car as timed text, and its sound or video, if you have them. Mirkle says what each file is and what it read from it; all stay as they are.</source>
      <translation>As notas em texto ou num documento, uma por linha, como as escrevem. A passagem numa tabela (pelo menos tempo e posição), no arquivo de um telefone, em GPX, NMEA, FIT, TCX, KML, GeoJSON ou MDF4. O que se disse no carro em texto com tempos, e o som ou o vídeo, se os tiverem. O Mirkle diz o que é cada ficheiro e o que leu dele; todos ficam como estão.</translation>
    </message>
    <message>
      <source>Said against written</source>
      <translation>Dito e escrito</translation>
    </message>
    <message>
      <source>Go on to watch it  ⏎</source>
      <translation>Passar a vê-lo  ⏎</translation>
    </message>
    <message>
      <source>{0}: book and video</source>
      <translation>{0}: caderno e vídeo</translation>
    </message>
    <message>
      <source>Nothing recorded this pass but the camera, so nothing is measured: you watch, note by note, and say what you saw. Drop the recording of the run here at any time, and it is measured as well.</source>
      <translation>Só a câmara gravou esta passagem, por isso nada é medido: vejam, nota a nota, e digam o que viram. Larguem aqui a gravação da passagem em qualquer altura, e será medida também.</translation>
    </message>
    <message>
      <source>{0}: {1:.1f} km from start to finish</source>
      <translation>{0}: {1:.1f} km da partida à chegada</translation>
    </message>
    <message>
      <source>{0}. Drop another pass or what was said here to add it; what can't be told of a file is asked first.</source>
      <translation>{0}. Larguem aqui outra passagem ou o que foi dito para o juntar; o que não se sabe de um ficheiro é perguntado primeiro.</translation>
    </message>
    <message>
      <source>Notes, recording, words, sound</source>
      <translation>Notas, gravação, palavras, som</translation>
    </message>
    <message>
      <source>Begin a new stage with these files</source>
      <translation>Começar um troço novo com estes ficheiros</translation>
    </message>
    <message>
      <source>Read only</source>
      <translation>Só leitura</translation>
    </message>
    <message>
      <source>This stage is open elsewhere: look, but nothing can be marked here.</source>
      <translation>Este troço está aberto noutro lado: vejam, mas aqui nada se pode marcar.</translation>
    </message>
    <message>
      <source>The notes</source>
      <translation>As notas</translation>
    </message>
    <message>
      <source>The recording</source>
      <translation>A gravação</translation>
    </message>
    <message>
      <source>{0} of {1} notes were heard in the sound.</source>
      <translation>{0} de {1} notas ouviram-se no som.</translation>
    </message>
    <message>
      <source>{0} of {1} notes were said.</source>
      <translation>{0} de {1} notas foram ditas.</translation>
    </message>
    <message>
      <source>The words</source>
      <translation>As palavras</translation>
    </message>
    <message>
      <source>When each note was called can be found in it: ☰, Hear, “Find when each note was called, from the sound”.</source>
      <translation>Nele se encontra quando foi dita cada nota: ☰, Ouvir, “Encontrar quando foi dita cada nota, pelo som”.</translation>
    </message>
    <message>
      <source>The sound</source>
      <translation>O som</translation>
    </message>
    <message>
      <source>On the road</source>
      <translation>Na estrada</translation>
    </message>
    <message>
      <source>Mind</source>
      <translation>Atenção</translation>
    </message>
    <message>
      <source>{0} of the decisions in this file are damaged and can't be read.</source>
      <translation>{0} das decisões neste ficheiro estão danificadas e não se podem ler.</translation>
    </message>
    <message>
      <source>{0} entries in this file were written by a newer Mirkle. They are kept, and not shown here.</source>
      <translation>{0} entradas deste ficheiro foram escritas por um Mirkle mais recente. Ficam guardadas e não aparecem aqui.</translation>
    </message>
    <message>
      <source>{0} of the passes in this file are damaged and can't be read.</source>
      <translation>{0} das passagens deste ficheiro estão danificadas e não se conseguem ler.</translation>
    </message>
    <message>
      <source>{0} notes that were put on their bends by hand read otherwise now. They find their own places.</source>
      <translation>{0} notas que tinham sido postas à mão nas suas curvas mudaram de texto. Procuram agora o seu lugar.</translation>
    </message>
    <message>
      <source>What was set by hand on this pass is damaged and can't be read. Set it again.</source>
      <translation>O que foi acertado à mão nesta passagem está danificado e não se consegue ler. Acerte-o outra vez.</translation>
    </message>
    <message>
      <source>The video</source>
      <translation>O vídeo</translation>
    </message>
    <message>
      <source>The calls</source>
      <translation>O ditado</translation>
    </message>
    <message>
      <source>When {0} of {1} notes were called is known.</source>
      <translation>Sabe-se quando foram ditadas {0} de {1} notas.</translation>
    </message>
    <message>
      <source>When each note was called is not known yet. ☰, Hear, “Find when each note was called, from the sound”, looks for it; or play the video once, at up to double speed, and press C at each call.</source>
      <translation>Ainda não se sabe quando cada nota foi ditada. ☰, Ouvir, “Encontrar quando foi dita cada nota, pelo som”, procura-o; ou passem o vídeo uma vez, até ao dobro da velocidade, e carreguem em C em cada nota ditada.</translation>
    </message>
    <message>
      <source>{0} notes, {1} corners, {2}; grades 1 to {3}.</source>
      <translation>{0} notas, {1} curvas, {2}; notas de 1 a {3}.</translation>
    </message>
    <message>
      <source>{0} of {1} corner notes have their bend.</source>
      <translation>{0} de {1} notas de curva têm a sua curva.</translation>
    </message>
    <message>
      <source>Your grades go with the road to about {0:.1f} of a grade.</source>
      <translation>Os vossos graus seguem a estrada a cerca de {0:.1f} de grau.</translation>
    </message>
    <message>
      <source>Your distances are as long as the road.</source>
      <translation>As vossas distâncias são as da estrada.</translation>
    </message>
    <message>
      <source>You call {0:.0f} % more metres than the car measures; that is taken into account.</source>
      <translation>Ditam {0:.0f} % mais metros do que o carro mede; isso é tido em conta.</translation>
    </message>
    <message>
      <source>You call {0:.0f} % fewer metres than the car measures; that is taken into account.</source>
      <translation>Ditam {0:.0f} % menos metros do que o carro mede; isso é tido em conta.</translation>
    </message>
    <message>
      <source>found by “go”</source>
      <translation>encontrado pelo “vai”</translation>
    </message>
    <message>
      <source>set by hand</source>
      <translation>acertado à mão</translation>
    </message>
    <message>
      <source>found by the noise of the car, which rises with its speed</source>
      <translation>encontrado pelo ruído do carro, que sobe com a velocidade</translation>
    </message>
    <message>
      <source>found by when the calls came before their corners</source>
      <translation>encontrado pela antecedência dos ditados</translation>
    </message>
    <message>
      <source>The words' clock reads {0:+.1f} s against the recording's, give or take {1:.1f} s; {2}.</source>
      <translation>O relógio das palavras marca {0:+.1f} s em relação ao da gravação, mais ou menos {1:.1f} s; {2}.</translation>
    </message>
    <message>
      <source>It gains {0:+.1f} s a minute, which is taken into account: the sound was converted at another rate, or is of another pass.</source>
      <translation>Ganha {0:+.1f} s por minuto, o que já está tido em conta: o som foi convertido a outro ritmo, ou é de outra passagem.</translation>
    </message>
    <message>
      <source>The clocks</source>
      <translation>Os relógios</translation>
    </message>
    <message>
      <source>The guide</source>
      <translation>O guia</translation>
    </message>
    <message>
      <source>key</source>
      <translation>tecla</translation>
    </message>
    <message>
      <source>where</source>
      <translation>onde</translation>
    </message>
    <message>
      <source>does</source>
      <translation>faz</translation>
    </message>
    <message>
      <source>Go to the next danger that is left (D in Compare)</source>
      <translation>Ir para o próximo perigo que falta (D em Comparar)</translation>
    </message>
    <message>
      <source>See them and put them back (☰, Decide)</source>
      <translation>Vê-las e pô-las no lugar (☰, Decidir)</translation>
    </message>
    <message>
      <source>Which pass</source>
      <translation>Que passagem</translation>
    </message>
    <message>
      <source>All commands, with their keys (Alt+M)</source>
      <translation>Todos os comandos, com as suas teclas (Alt+M)</translation>
    </message>
    <message>
      <source>▼ 1 danger left</source>
      <translation>▼ falta 1 perigo</translation>
    </message>
    <message>
      <source>▼ {0} dangers left</source>
      <translation>▼ faltam {0} perigos</translation>
    </message>
    <message>
      <source>What are these files?</source>
      <translation>O que são estes ficheiros?</translation>
    </message>
    <message>
      <source>Nothing of the stage is changed before you take them in; what was there stays in it.</source>
      <translation>Nada do troço muda antes de os receberem; o que lá estava fica.</translation>
    </message>
    <message>
      <source>What {0} is</source>
      <translation>O que é {0}</translation>
    </message>
    <message>
      <source>Which book was read on the new pass</source>
      <translation>Que caderno foi lido na nova passagem</translation>
    </message>
    <message>
      <source>Which book was read on the new pass?</source>
      <translation>Que caderno foi lido na nova passagem?</translation>
    </message>
    <message>
      <source>Back: leave the stage as it is</source>
      <translation>Voltar: deixar o troço como está</translation>
    </message>
    <message>
      <source>Take them in</source>
      <translation>Recebê-los</translation>
    </message>
    <message>
      <source>The stage and {0} on one map</source>
      <translation>O troço e {0} no mesmo mapa</translation>
    </message>
    <message>
      <source>this stage</source>
      <translation>este troço</translation>
    </message>
    <message>
      <source>by radius</source>
      <translation>por raio</translation>
    </message>
    <message>
      <source>by speed</source>
      <translation>por velocidade</translation>
    </message>
    <message>
      <source>by angle turned</source>
      <translation>por ângulo</translation>
    </message>
    <message>
      <source>Notes, the unsure ones first</source>
      <translation>Notas, as incertas primeiro</translation>
    </message>
    <message>
      <source>right as it is  ⏎</source>
      <translation>está bem assim  ⏎</translation>
    </message>
    <message>
      <source>This note lies on its bend: keep it there, and go to the next unsure one (Enter)</source>
      <translation>Esta nota está na sua curva: deixá-la lá e passar à próxima incerta (Enter)</translation>
    </message>
    <message>
      <source>←  to the bend before</source>
      <translation>←  para a curva antes</translation>
    </message>
    <message>
      <source>Put the note on the bend before (Left)</source>
      <translation>Pôr a nota na curva anterior (Esquerda)</translation>
    </message>
    <message>
      <source>to the next bend  →</source>
      <translation>para a próxima curva  →</translation>
    </message>
    <message>
      <source>Put the note on the next bend (Right)</source>
      <translation>Pôr a nota na curva seguinte (Direita)</translation>
    </message>
    <message>
      <source>on no bend  0</source>
      <translation>em nenhuma curva  0</translation>
    </message>
    <message>
      <source>No bend answers this note (0)</source>
      <translation>Nenhuma curva responde a esta nota (0)</translation>
    </message>
    <message>
      <source>take the pin out</source>
      <translation>tirar o alfinete</translation>
    </message>
    <message>
      <source>Take the pin out: Mirkle places the note again (Backspace)</source>
      <translation>Tirar o alfinete: o Mirkle volta a colocar a nota (Backspace)</translation>
    </message>
    <message>
      <source>Type it, step it with the arrow keys, or drag a call onto its corner</source>
      <translation>Escreva, use as setas, ou arraste um ditado para a sua curva</translation>
    </message>
    <message>
      <source>What the words' clock reads more than the recording's</source>
      <translation>O que o relógio das palavras tem a mais que o da gravação</translation>
    </message>
    <message>
      <source>have Mirkle find it</source>
      <translation>que o Mirkle o encontre</translation>
    </message>
    <message>
      <source>Let Mirkle find the clock again</source>
      <translation>Deixar o Mirkle encontrar de novo</translation>
    </message>
    <message>
      <source>The words' clock is ahead by</source>
      <translation>As palavras vão adiantadas</translation>
    </message>
    <message>
      <source>What the dots are laid out by</source>
      <translation>Por que se ordenam os pontos</translation>
    </message>
    <message>
      <source> at {0:.2f} km, a {1} of {2:.0f} m</source>
      <translation> aos {0:.2f} km, {1}, raio de {2:.0f} m</translation>
    </message>
    <message>
      <source>Every note has its place.</source>
      <translation>Cada nota tem o seu lugar.</translation>
    </message>
    <message>
      <source>1 note still unsure: U goes to the next.</source>
      <translation>1 nota ainda incerta: U vai para a seguinte.</translation>
    </message>
    <message>
      <source>{0} notes still unsure: U goes to the next.</source>
      <translation>{0} notas ainda incertas: U vai para a seguinte.</translation>
    </message>
    <message>
      <source>That bend at {0:.2f} km turns the other way than “{1}” says. Do it again to put the note there all the same.</source>
      <translation>Essa curva aos {0:.2f} km vira para o outro lado do que diz “{1}”. Repitam para pôr lá a nota mesmo assim.</translation>
    </message>
    <message>
      <source>Too few corners to say what your grades go by.</source>
      <translation>Curvas a menos para dizer o que seguem as vossas notas.</translation>
    </message>
    <message>
      <source>radius</source>
      <translation>o raio</translation>
    </message>
    <message>
      <source>the angle turned</source>
      <translation>o ângulo rodado</translation>
    </message>
    <message>
      <source>{0} {1:.2f}</source>
      <translation>{0} {1:.2f}</translation>
    </message>
    <message>
      <source>Your grades go by {0} best: in order {1:.2f} of 1 ({2}).</source>
      <translation>As vossas notas seguem melhor {0}: em ordem {1:.2f} de 1 ({2}).</translation>
    </message>
    <message>
      <source>Moments worth listening to</source>
      <translation>Momentos que vale a pena ouvir</translation>
    </message>
    <message>
      <source>hear it  Space</source>
      <translation>ouvir  Espaço</translation>
    </message>
    <message>
      <source>Hear it from two seconds before (Space)</source>
      <translation>Ouvir desde dois segundos antes (Espaço)</translation>
    </message>
    <message>
      <source>it is right  A</source>
      <translation>está certa  A</translation>
    </message>
    <message>
      <source>It is as it says: a call is there and the rest is solved again around it, a note was not said, speech is nothing to keep (A)</source>
      <translation>É como diz: a nota está aí e o resto é procurado de novo, uma nota não foi dita, a fala não é nada a guardar (A)</translation>
    </message>
    <message>
      <source>write it down  R</source>
      <translation>escrever  R</translation>
    </message>
    <message>
      <source>Write down what is said there: it stands at its place as a remark (R)</source>
      <translation>Escrever o que ali se diz: fica no seu sítio como comentário (R)</translation>
    </message>
    <message>
      <source>the next  L</source>
      <translation>a próxima  L</translation>
    </message>
    <message>
      <source>The next moment worth listening to (L)</source>
      <translation>O próximo momento que vale a pena ouvir (L)</translation>
    </message>
    <message>
      <source>{0} of {1} notes heard, {2} for sure (solid, the others hatched): when, not what. Nothing is said to be left out before somebody has listened.</source>
      <translation>{0} de {1} notas ouvidas, {2} com certeza (cheias, as outras a tracejado): quando, não o quê. De nenhuma se diz que faltou antes de alguém ouvir.</translation>
    </message>
    <message>
      <source>What is said at {0}?</source>
      <translation>Que se diz aos {0}?</translation>
    </message>
    <message>
      <source>Decisions without a place</source>
      <translation>Decisões sem lugar</translation>
    </message>
    <message>
      <source>What they were about was not found again after the start, the notes or the words were changed. They are kept. Put each on the finding that it belongs to, or take it out of this list; undo brings it back.</source>
      <translation>Aquilo a que diziam respeito não voltou a ser encontrado depois de mudar a partida, as notas ou as palavras. Estão guardadas. Ponha cada uma na diferença a que pertence, ou tire-a desta lista; anular trá-la de volta.</translation>
    </message>
    <message>
      <source>Findings that nobody has decided on, the nearest first</source>
      <translation>Diferenças por decidir, as mais próximas primeiro</translation>
    </message>
    <message>
      <source>Put it on this finding</source>
      <translation>Pôr nesta diferença</translation>
    </message>
    <message>
      <source>Take it out of this list</source>
      <translation>Tirar desta lista</translation>
    </message>
    <message>
      <source>Every decision has its place</source>
      <translation>Todas as decisões têm o seu lugar</translation>
    </message>
    <message>
      <source>{0:.2f} km: {1}
{2}</source>
      <translation>{0:.2f} km: {1}
{2}</translation>
    </message>
    <message>
      <source>at {0:.2f} km</source>
      <translation>aos {0:.2f} km</translation>
    </message>
    <message>
      <source>Road</source>
      <translation>Estrada</translation>
    </message>
    <message>
      <source>The straightened road, as wide as your grades (M goes round)</source>
      <translation>A estrada endireitada, da largura dos seus graus (M percorre)</translation>
    </message>
    <message>
      <source>Plan</source>
      <translation>Planta</translation>
    </message>
    <message>
      <source>The stage from above (M goes round)</source>
      <translation>O troço visto de cima (M percorre)</translation>
    </message>
    <message>
      <source>Video</source>
      <translation>Vídeo</translation>
    </message>
    <message>
      <source>The video of this pass (M goes round)</source>
      <translation>O vídeo desta passagem (M percorre)</translation>
    </message>
    <message>
      <source>See more of the stage at once (−)</source>
      <translation>Ver mais do troço de uma vez (−)</translation>
    </message>
    <message>
      <source>See it larger (+)</source>
      <translation>Ver maior (+)</translation>
    </message>
    <message>
      <source>{0:.0f} m in sight</source>
      <translation>{0:.0f} m à vista</translation>
    </message>
    <message>
      <source>For another co-driver</source>
      <translation>Para outro navegador</translation>
    </message>
    <message>
      <source>1 to {0}</source>
      <translation>1 a {0}</translation>
    </message>
    <message>
      <source>The notes in the other hand</source>
      <translation>As notas na outra escrita</translation>
    </message>
    <message>
      <source>Language</source>
      <translation>Língua</translation>
    </message>
    <message>
      <source>What comes first</source>
      <translation>O que vem primeiro</translation>
    </message>
    <message>
      <source>Grades</source>
      <translation>Notas</translation>
    </message>
    <message>
      <source>They run</source>
      <translation>Vão</translation>
    </message>
    <message>
      <source>Write it as text…</source>
      <translation>Escrever em texto…</translation>
    </message>
    <message>
      <source>Close</source>
      <translation>Fechar</translation>
    </message>
    <message>
      <source>page {0}, line {1}: {2}</source>
      <translation>página {0}, linha {1}: {2}</translation>
    </message>
    <message>
      <source>; and {0} more</source>
      <translation>; e mais {0}</translation>
    </message>
    <message>
      <source>Not carried over: {0}{1}.</source>
      <translation>Não passou: {0}{1}.</translation>
    </message>
    <message>
      <source>Everything was carried over.</source>
      <translation>Passou tudo.</translation>
    </message>
    <message>
      <source>The page of notes</source>
      <translation>A página de notas</translation>
    </message>
    <message>
      <source>page {0}</source>
      <translation>página {0}</translation>
    </message>
    <message>
      <source>Divider: drag it to give a pane more room</source>
      <translation>Divisória: arrastem-na para dar mais espaço a um painel</translation>
    </message>
    <message>
      <source>Drag it to give a pane more room</source>
      <translation>Arrastem para dar mais espaço a um painel</translation>
    </message>
    <message>
      <source>Parts that don't count</source>
      <translation>Partes que não contam</translation>
    </message>
    <message>
      <source>A puncture, a warning lamp, dust from the car ahead: there the pace says nothing about the notes. The shape of the road is still compared.</source>
      <translation>Um furo, uma luz de aviso, pó do carro da frente: aí o andamento nada diz das notas. A forma da estrada compara-se na mesma.</translation>
    </message>
    <message>
      <source>Add a part</source>
      <translation>Acrescentar uma parte</translation>
    </message>
    <message>
      <source>Use this list</source>
      <translation>Usar esta lista</translation>
    </message>
    <message>
      <source>to</source>
      <translation>até</translation>
    </message>
    <message>
      <source>why: puncture, dust, …</source>
      <translation>porquê: furo, pó, …</translation>
    </message>
    <message>
      <source>why it does not count</source>
      <translation>porque não conta</translation>
    </message>
    <message>
      <source>Take away</source>
      <translation>Retirar</translation>
    </message>
    <message>
      <source>does not count</source>
      <translation>não conta</translation>
    </message>
    <message>
      <source>fits</source>
      <translation>certa</translation>
    </message>
    <message>
      <source>still too fast</source>
      <translation>ainda rápida de mais</translation>
    </message>
    <message>
      <source>now too slow</source>
      <translation>agora lenta de mais</translation>
    </message>
    <message>
      <source>can't tell</source>
      <translation>não se sabe</translation>
    </message>
    <message>
      <source>kept, and it fits</source>
      <translation>ficou, e está certa</translation>
    </message>
    <message>
      <source>kept, and too fast again</source>
      <translation>ficou, e outra vez rápida de mais</translation>
    </message>
    <message>
      <source>kept, and too slow again</source>
      <translation>ficou, e outra vez lenta de mais</translation>
    </message>
    <message>
      <source>kept; can't tell</source>
      <translation>ficou; não se sabe</translation>
    </message>
    <message>
      <source>said as changed</source>
      <translation>dita como mudada</translation>
    </message>
    <message>
      <source>the old one was said</source>
      <translation>foi dita a antiga</translation>
    </message>
    <message>
      <source>said otherwise</source>
      <translation>dita de outro modo</translation>
    </message>
    <message>
      <source>not said</source>
      <translation>não dita</translation>
    </message>
    <message>
      <source>the change stays</source>
      <translation>a mudança fica</translation>
    </message>
    <message>
      <source>written otherwise since</source>
      <translation>escrita de outro modo desde então</translation>
    </message>
    <message>
      <source>{0} right</source>
      <translation>{0} certas</translation>
    </message>
    <message>
      <source>{0} still too fast</source>
      <translation>{0} ainda rápidas de mais</translation>
    </message>
    <message>
      <source>{0} now too slow</source>
      <translation>{0} agora lentas de mais</translation>
    </message>
    <message>
      <source>{0} can't be told</source>
      <translation>{0} que não se sabem</translation>
    </message>
    <message>
      <source>Which pass against the one before it</source>
      <translation>Que passagem contra a anterior</translation>
    </message>
    <message>
      <source>What was changed, and what was kept, in the order of the road</source>
      <translation>O que foi mudado e o que ficou, pela ordem da estrada</translation>
    </message>
    <message>
      <source>Keep the change  K</source>
      <translation>Manter a mudança  K</translation>
    </message>
    <message>
      <source>Put back what stood  O</source>
      <translation>Repor o que estava  O</translation>
    </message>
    <message>
      <source>Correct further  E</source>
      <translation>Corrigir mais  E</translation>
    </message>
    <message>
      <source>Talk it over  T</source>
      <translation>Falar disso  T</translation>
    </message>
    <message>
      <source>See it in Compare  C</source>
      <translation>Ver em Comparar  C</translation>
    </message>
    <message>
      <source>{0} against {1}</source>
      <translation>{0} contra {1}</translation>
    </message>
    <message>
      <source>Was the change right?</source>
      <translation>A mudança foi certa?</translation>
    </message>
    <message>
      <source>One pass so far. Drop the recording of the next one on the window: every note that you changed for it is then held against what the car met.</source>
      <translation>Uma passagem até agora. Larguem a gravação da seguinte na janela: cada nota que mudaram para ela é então comparada com o que o carro encontrou.</translation>
    </message>
    <message>
      <source>Was the change right? {0} against {1}</source>
      <translation>A mudança foi certa? {0} contra {1}</translation>
    </message>
    <message>
      <source>In all your stages: of {0} changes {1} were right, {2} not far enough, {3} too far.</source>
      <translation>Em todos os vossos troços: de {0} mudanças {1} foram certas, {2} curtas de mais, {3} longe de mais.</translation>
    </message>
    <message>
      <source>{0} changes: {1}.</source>
      <translation>{0} mudanças: {1}.</translation>
    </message>
    <message>
      <source>No note was changed for this pass.</source>
      <translation>Nenhuma nota foi mudada para esta passagem.</translation>
    </message>
    <message>
      <source>{0} notes were kept, and were too fast again.</source>
      <translation>{0} notas ficaram, e foram outra vez rápidas de mais.</translation>
    </message>
    <message>
      <source>New on this pass, in Compare: {0}.</source>
      <translation>Novo nesta passagem, em Comparar: {0}.</translation>
    </message>
    <message>
      <source>As a whole {0:.1f} s quicker.</source>
      <translation>No todo {0:.1f} s mais rápida.</translation>
    </message>
    <message>
      <source>As a whole {0:.1f} s slower.</source>
      <translation>No todo {0:.1f} s mais lenta.</translation>
    </message>
    <message>
      <source>Another surface: place by place the clock says nothing of a note.</source>
      <translation>Outro piso: sítio a sítio o relógio nada diz de uma nota.</translation>
    </message>
    <message>
      <source>page {0}, line {1}, {2:.2f} km</source>
      <translation>página {0}, linha {1}, {2:.2f} km</translation>
    </message>
    <message>
      <source>Where the later pass was quicker and slower</source>
      <translation>Onde a última passagem foi mais rápida e mais lenta</translation>
    </message>
    <message>
      <source>seconds that the later pass is ahead at each place, beyond its gain as a whole</source>
      <translation>segundos de avanço da última passagem em cada sítio, além do ganho no todo</translation>
    </message>
    <message>
      <source>+{0:.1f} s</source>
      <translation>+{0:.1f} s</translation>
    </message>
    <message>
      <source>−{0:.1f} s</source>
      <translation>−{0:.1f} s</translation>
    </message>
    <message>
      <source>The stage from above and its heights</source>
      <translation>O troço visto de cima e as suas alturas</translation>
    </message>
    <message>
      <source>The heights along the stage</source>
      <translation>As altitudes ao longo do troço</translation>
    </message>
    <message>
      <source>From {0:.0f} to {1:.0f} m above the sea.</source>
      <translation>De {0:.0f} a {1:.0f} m acima do mar.</translation>
    </message>
    <message>
      <source>heights, {0:.0f} to {1:.0f} m</source>
      <translation>alturas, {0:.0f} a {1:.0f} m</translation>
    </message>
    <message>
      <source>The change card</source>
      <translation>O cartão de alterações</translation>
    </message>
    <message>
      <source>The new book</source>
      <translation>O caderno novo</translation>
    </message>
    <message>
      <source>type for daylight</source>
      <translation>letra para o dia</translation>
    </message>
    <message>
      <source>larger type for the night</source>
      <translation>letra maior para a noite</translation>
    </message>
    <message>
      <source>Paper</source>
      <translation>Papel</translation>
    </message>
    <message>
      <source>The order of the card</source>
      <translation>A ordem da ficha</translation>
    </message>
    <message>
      <source>Size of type</source>
      <translation>Tamanho da letra</translation>
    </message>
    <message>
      <source>The sheets as they will be printed</source>
      <translation>As folhas como serão impressas</translation>
    </message>
    <message>
      <source>Print…</source>
      <translation>Imprimir…</translation>
    </message>
    <message>
      <source>Choose a printer of this computer and print</source>
      <translation>Escolher uma impressora deste computador e imprimir</translation>
    </message>
    <message>
      <source>Save as PDF…</source>
      <translation>Guardar em PDF…</translation>
    </message>
    <message>
      <source>sheet {0} of {1}</source>
      <translation>folha {0} de {1}</translation>
    </message>
    <message>
      <source>1 sheet</source>
      <translation>1 folha</translation>
    </message>
    <message>
      <source>{0} sheets</source>
      <translation>{0} folhas</translation>
    </message>
    <message>
      <source>Sent to {0}</source>
      <translation>Enviado para {0}</translation>
    </message>
    <message>
      <source>changes</source>
      <translation>alteracoes</translation>
    </message>
    <message>
      <source>notes</source>
      <translation>notas</translation>
    </message>
    <message>
      <source>in the order of the pages</source>
      <translation>pela ordem das páginas</translation>
    </message>
    <message>
      <source>the biggest risk first</source>
      <translation>o maior risco primeiro</translation>
    </message>
    <message>
      <source>{0}: changes to the notes</source>
      <translation>{0}: alterações às notas</translation>
    </message>
    <message>
      <source>{0}: notes</source>
      <translation>{0}: notas</translation>
    </message>
    <message>
      <source>car {0}</source>
      <translation>carro {0}</translation>
    </message>
    <message>
      <source>pass {0}</source>
      <translation>passagem {0}</translation>
    </message>
    <message>
      <source>edition {0}</source>
      <translation>edição {0}</translation>
    </message>
    <message>
      <source>{0} · sheet {1} of {2}</source>
      <translation>{0} · folha {1} de {2}</translation>
    </message>
    <message>
      <source>Before you trust this</source>
      <translation>Antes de confiar nisto</translation>
    </message>
    <message>
      <source>No changes.</source>
      <translation>Sem alterações.</translation>
    </message>
    <message>
      <source>1 change.</source>
      <translation>1 mudança.</translation>
    </message>
    <message>
      <source>{0} changes.</source>
      <translation>{0} mudanças.</translation>
    </message>
    <message>
      <source>Copy them into the book by page and line, then read them aloud once.</source>
      <translation>Copiem-nas para o caderno por página e linha, e leiam-nas uma vez em voz alta.</translation>
    </message>
    <message>
      <source>Met on the road</source>
      <translation>Encontrado na estrada</translation>
    </message>
    <message>
      <source>For the next pass only</source>
      <translation>Só para a próxima passagem</translation>
    </message>
    <message>
      <source>To talk over before the next pass</source>
      <translation>A falar antes da próxima passagem</translation>
    </message>
    <message>
      <source>To look at on the video</source>
      <translation>A ver no vídeo</translation>
    </message>
    <message>
      <source>One car's line on one pass: both agree on each change, and look at the recording first.</source>
      <translation>A linha de um carro numa passagem: ambos concordam em cada mudança, e veem primeiro a gravação.</translation>
    </message>
    <message>
      <source>Nothing was measured: this is what was seen on one video. Both agree on each change.</source>
      <translation>Nada foi medido: isto é o que se viu num vídeo. Ambos concordam com cada alteração.</translation>
    </message>
    <message>
      <source>recording {0}:{1:02d}</source>
      <translation>gravação {0}:{1:02d}</translation>
    </message>
    <message>
      <source>p {0}  line {1}</source>
      <translation>p {0}  linha {1}</translation>
    </message>
    <message>
      <source>Seen on the video, to talk over before the next pass</source>
      <translation>Visto no vídeo, a conversar antes da próxima passagem</translation>
    </message>
    <message>
      <source>strike it out</source>
      <translation>riscar</translation>
    </message>
    <message>
      <source>behind “{0}”, page {1}, line {2}: {3}</source>
      <translation>a seguir a “{0}”, página {1}, linha {2}: {3}</translation>
    </message>
    <message>
      <source> to {0:.2f}</source>
      <translation> a {0:.2f}</translation>
    </message>
    <message>
      <source>, behind “{0}”, page {1}, line {2}</source>
      <translation>, atrás de “{0}”, página {1}, linha {2}</translation>
    </message>
    <message>
      <source>{0:.2f}{1} km{2}: {3}</source>
      <translation>{0:.2f}{1} km{2}: {3}</translation>
    </message>
    <message>
      <source>{0}, page {1}</source>
      <translation>{0}, página {1}</translation>
    </message>
    <message>
      <source>Not known: what do they mean?</source>
      <translation>Desconhecidas: o que querem dizer?</translation>
    </message>
    <message>
      <source>Perhaps: these stay as they were said</source>
      <translation>Talvez: estas ficam como foram ditas</translation>
    </message>
    <message>
      <source>Read as another word</source>
      <translation>Lidas como outra palavra</translation>
    </message>
    <message>
      <source>{0}, as they were read</source>
      <translation>{0}, como se leram</translation>
    </message>
    <message>
      <source>Words to settle</source>
      <translation>Palavras a resolver</translation>
    </message>
    <message>
      <source>Leave it  L</source>
      <translation>Deixar  L</translation>
    </message>
    <message>
      <source>Hear it  Space</source>
      <translation>Ouvir  Espaço</translation>
    </message>
    <message>
      <source>This word means</source>
      <translation>Esta palavra quer dizer</translation>
    </message>
    <message>
      <source>this word means…</source>
      <translation>esta palavra quer dizer…</translation>
    </message>
    <message>
      <source>Teach it</source>
      <translation>Ensinar</translation>
    </message>
    <message>
      <source>{0} harmed words were read from the notes, which have them there.</source>
      <translation>{0} palavras deturpadas foram lidas pelas notas, que as têm nesse lugar.</translation>
    </message>
    <message>
      <source>{0}   it means “{1}”</source>
      <translation>{0}   quer dizer “{1}”</translation>
    </message>
    <message>
      <source>{0}; {1:.0%} sure.</source>
      <translation>{0}; {1:.0%} certo.</translation>
    </message>
    <message>
      <source>Choose what the word means from the list first.</source>
      <translation>Escolha primeiro na lista o que a palavra quer dizer.</translation>
    </message>
    <message>
      <source>{0} to settle</source>
      <translation>{0} por resolver</translation>
    </message>
    <message>
      <source>all read</source>
      <translation>tudo lido</translation>
    </message>
    <message>
      <source>“{0}”  read as  {1}</source>
      <translation>“{0}”  lida como  {1}</translation>
    </message>
    <message>
      <source>“{0}”  perhaps  {1}</source>
      <translation>“{0}”  talvez  {1}</translation>
    </message>
    <message>
      <source>early</source>
      <translation>cedo</translation>
    </message>
    <message>
      <source>in time</source>
      <translation>a tempo</translation>
    </message>
    <message>
      <source>late</source>
      <translation>tarde</translation>
    </message>
    <message>
      <source>not called</source>
      <translation>não ditada</translation>
    </message>
    <message>
      <source>The page turns itself. Enter starts and stops.</source>
      <translation>A página vira-se sozinha. Enter começa e pára.</translation>
    </message>
    <message>
      <source>Space at each call: it is held against when the driver needs it.</source>
      <translation>Espaço em cada nota ditada: é comparada com quando o piloto precisa dela.</translation>
    </message>
    <message>
      <source>The new notes are read aloud when they are due, where this machine has a voice.</source>
      <translation>As notas novas são lidas em voz alta na altura certa, onde esta máquina tem voz.</translation>
    </message>
    <message>
      <source>Whole stage  X</source>
      <translation>Troço inteiro  X</translation>
    </message>
    <message>
      <source>The whole stage, or the changed places only (X)</source>
      <translation>O troço inteiro, ou só os sítios alterados (X)</translation>
    </message>
    <message>
      <source>we are both here  B</source>
      <translation>estamos cá os dois  B</translation>
    </message>
    <message>
      <source>by voice  V</source>
      <translation>por voz  V</translation>
    </message>
    <message>
      <source>The microphone hears when a call begins, instead of Space (V)</source>
      <translation>O microfone ouve quando o ditado começa, em vez de Espaço (V)</translation>
    </message>
    <message>
      <source>½  H</source>
      <translation>½  H</translation>
    </message>
    <message>
      <source>Half speed, for learning (H)</source>
      <translation>Meia velocidade, para aprender (H)</translation>
    </message>
    <message>
      <source>Start  ⏎</source>
      <translation>Começar  ⏎</translation>
    </message>
    <message>
      <source>Start, or stop (Enter)</source>
      <translation>Começar, ou parar (Enter)</translation>
    </message>
    <message>
      <source>What came of it</source>
      <translation>O que resultou</translation>
    </message>
    <message>
      <source>The pace, in hundredths of the recorded one</source>
      <translation>O andamento, em centésimos do gravado</translation>
    </message>
    <message>
      <source> km/h on average</source>
      <translation> km/h em média</translation>
    </message>
    <message>
      <source>The average speed on a stage that nobody recorded</source>
      <translation>A velocidade média num troço que ninguém gravou</translation>
    </message>
    <message>
      <source>pace</source>
      <translation>andamento</translation>
    </message>
    <message>
      <source>At the desk only: never while driving, and never on an open road.</source>
      <translation>Só à mesa: nunca a conduzir, e nunca numa estrada aberta.</translation>
    </message>
    <message>
      <source>not called: {0}</source>
      <translation>não ditada: {0}</translation>
    </message>
    <message>
      <source>{0}, {1:.1f} s and {2:.0f} m later than usual: {3}</source>
      <translation>{0}, {1:.1f} s e {2:.0f} m mais tarde do que o habitual: {3}</translation>
    </message>
    <message>
      <source>{0}, {1:.1f} s and {2:.0f} m sooner than usual: {3}</source>
      <translation>{0}, {1:.1f} s e {2:.0f} m mais cedo do que o habitual: {3}</translation>
    </message>
    <message>
      <source>Stop  ⏎</source>
      <translation>Parar  ⏎</translation>
    </message>
    <message>
      <source>With both of you there {0} are left.</source>
      <translation>Com os dois presentes faltam {0}.</translation>
    </message>
    <message>
      <source>{0}   {1:.2f} km</source>
      <translation>{0}   {1:.2f} km</translation>
    </message>
    <message>
      <source>{0}  again:  {1}</source>
      <translation>{0}  outra vez:  {1}</translation>
    </message>
    <message>
      <source>Nothing is changed: the stage as it is written</source>
      <translation>Nada está alterado: o troço como está escrito</translation>
    </message>
    <message>
      <source>1 changed line</source>
      <translation>1 linha alterada</translation>
    </message>
    <message>
      <source>{0} changed lines</source>
      <translation>{0} linhas alteradas</translation>
    </message>
    <message>
      <source>rehearsed, both</source>
      <translation>ensaiada, os dois</translation>
    </message>
    <message>
      <source>put in</source>
      <translation>acrescentada</translation>
    </message>
    <message>
      <source>No time to say it: {0}. It takes {1:.1f} s, and there are {2:.1f}.</source>
      <translation>Não há tempo para a dizer: {0}. Leva {1:.1f} s, e há {2:.1f}.</translation>
    </message>
    <message>
      <source>“{0}” could go.</source>
      <translation>“{0}” podia sair.</translation>
    </message>
    <message>
      <source>{0:.1f} words a second from {1:.1f} to {2:.1f} km</source>
      <translation>{0:.1f} palavras por segundo dos {1:.1f} aos {2:.1f} km</translation>
    </message>
    <message>
      <source>{0}: {1} at {2:.0f} %</source>
      <translation>{0}: {1} a {2:.0f} %</translation>
    </message>
    <message>
      <source>The straightened road</source>
      <translation>A estrada endireitada</translation>
    </message>
    <message>
      <source>{0:.1f}</source>
      <translation>{0:.1f}</translation>
    </message>
    <message>
      <source>start</source>
      <translation>partida</translation>
    </message>
    <message>
      <source>finish</source>
      <translation>chegada</translation>
    </message>
    <message>
      <source>flew {0:.1f} s at {1:.0f} km/h</source>
      <translation>voou {0:.1f} s a {1:.0f} km/h</translation>
    </message>
    <message>
      <source>called {0}, was {1}</source>
      <translation>ditado {0}, foi {1}</translation>
    </message>
    <message>
      <source>{0}: no corner</source>
      <translation>{0}: sem curva</translation>
    </message>
    <message>
      <source>Each dot is a corner of yours. Click one to look at it.</source>
      <translation>Cada ponto é uma curva vossa. Clique num para a ver.</translation>
    </message>
    <message>
      <source>Your scale: each grade's corners</source>
      <translation>A vossa escala: as curvas de cada nota</translation>
    </message>
    <message>
      <source>{0}: {1:.0f} to {2:.0f} metres</source>
      <translation>{0}: {1:.0f} a {2:.0f} metros</translation>
    </message>
    <message>
      <source>The season's counts</source>
      <translation>As contas da época</translation>
    </message>
    <message>
      <source>Stages, and whether each counts</source>
      <translation>Troços, e se cada um conta</translation>
    </message>
    <message>
      <source>How your changes turned out, stage by stage. A stage without its tick is not counted.</source>
      <translation>Como resultaram as vossas alterações, troço a troço. Um troço sem visto não conta.</translation>
    </message>
    <message>
      <source>{0}: {1} right, {2} not far enough, {3} too far</source>
      <translation>{0}: {1} certas, {2} a menos, {3} a mais</translation>
    </message>
    <message>
      <source>Settings</source>
      <translation>Definições</translation>
    </message>
    <message>
      <source>as on this computer</source>
      <translation>como neste computador</translation>
    </message>
    <message>
      <source>light, for daylight</source>
      <translation>claro, para o dia</translation>
    </message>
    <message>
      <source>dark, for the night</source>
      <translation>escuro, para a noite</translation>
    </message>
    <message>
      <source> minutes</source>
      <translation> minutos</translation>
    </message>
    <message>
      <source>Theme</source>
      <translation>Tema</translation>
    </message>
    <message>
      <source>Size of text</source>
      <translation>Tamanho do texto</translation>
    </message>
    <message>
      <source>Your paper book has</source>
      <translation>O vosso caderno tem</translation>
    </message>
    <message>
      <source>A service usually takes</source>
      <translation>Uma assistência costuma durar</translation>
    </message>
    <message>
      <source>Larger sizes need a larger screen: the window takes {0} by {1} points.</source>
      <translation>Tamanhos maiores pedem um ecrã maior: a janela ocupa {0} por {1} pontos.</translation>
    </message>
    <message>
      <source>Keep these settings</source>
      <translation>Guardar estas definições</translation>
    </message>
    <message>
      <source>not measured</source>
      <translation>não medido</translation>
    </message>
    <message>
      <source>Your stages, the latest first</source>
      <translation>Os vossos troços, o mais recente primeiro</translation>
    </message>
    <message>
      <source>Open  ⏎</source>
      <translation>Abrir  ⏎</translation>
    </message>
    <message>
      <source>Open the chosen stage (Enter)</source>
      <translation>Abrir o troço escolhido (Enter)</translation>
    </message>
    <message>
      <source>Rename…</source>
      <translation>Mudar o nome…</translation>
    </message>
    <message>
      <source>Give the stage another name or event</source>
      <translation>Dar ao troço outro nome ou prova</translation>
    </message>
    <message>
      <source>Copy</source>
      <translation>Copiar</translation>
    </message>
    <message>
      <source>Make a copy of the stage with everything in it</source>
      <translation>Fazer uma cópia do troço com tudo o que tem</translation>
    </message>
    <message>
      <source>Move to the bin…</source>
      <translation>Mover para o lixo…</translation>
    </message>
    <message>
      <source>Move the stage's file to the bin of this computer</source>
      <translation>Mover o ficheiro do troço para o lixo deste computador</translation>
    </message>
    <message>
      <source>Begin another stage; this one is kept as it is</source>
      <translation>Começar outro troço; este fica guardado como está</translation>
    </message>
    <message>
      <source>Your stages</source>
      <translation>Os vossos troços</translation>
    </message>
    <message>
      <source>Move “{0}” to the bin? It can be taken out of there again.</source>
      <translation>Mover “{0}” para o lixo? Pode ser recuperado de lá.</translation>
    </message>
    <message>
      <source>Move it to the bin</source>
      <translation>Mover para o lixo</translation>
    </message>
    <message>
      <source>Leave it here</source>
      <translation>Deixar aqui</translation>
    </message>
    <message>
      <source>{0}: it can't be moved to the bin; delete the file by hand if you want to.</source>
      <translation>{0}: não se pode mover para o lixo; apaguem o ficheiro à mão se quiserem.</translation>
    </message>
    <message>
      <source>Rename the stage</source>
      <translation>Mudar o nome do troço</translation>
    </message>
    <message>
      <source>The stage's name</source>
      <translation>O nome do troço</translation>
    </message>
    <message>
      <source>The event</source>
      <translation>A prova</translation>
    </message>
    <message>
      <source>The car's number</source>
      <translation>O número do carro</translation>
    </message>
    <message>
      <source>Event</source>
      <translation>Prova</translation>
    </message>
    <message>
      <source>Car</source>
      <translation>Carro</translation>
    </message>
    <message>
      <source>Rename</source>
      <translation>Mudar o nome</translation>
    </message>
    <message>
      <source>can't be read  ·  {0}</source>
      <translation>não se consegue ler  ·  {0}</translation>
    </message>
    <message>
      <source>not reviewed yet  ·  {0}</source>
      <translation>ainda não revisto  ·  {0}</translation>
    </message>
    <message>
      <source>{0:.1f} km</source>
      <translation>{0:.1f} km</translation>
    </message>
    <message>
      <source>1 pass</source>
      <translation>1 passagem</translation>
    </message>
    <message>
      <source>{0} passes</source>
      <translation>{0} passagens</translation>
    </message>
    <message>
      <source>nothing measured</source>
      <translation>nada medido</translation>
    </message>
    <message>
      <source>no danger left</source>
      <translation>nenhum perigo por decidir</translation>
    </message>
    <message>
      <source>changes not copied yet: {0}</source>
      <translation>alterações por copiar: {0}</translation>
    </message>
    <message>
      <source>The stage from above</source>
      <translation>O troço visto de cima</translation>
    </message>
    <message>
      <source>Wheel: nearer or farther. Drag: move. Click on the line: go there.</source>
      <translation>Roda: mais perto ou mais longe. Arrastar: mover. Cliquem na linha: ir lá.</translation>
    </message>
    <message>
      <source>{0} m, north up</source>
      <translation>{0} m, norte em cima</translation>
    </message>
    <message>
      <source>What is going on</source>
      <translation>O que está a acontecer</translation>
    </message>
    <message>
      <source>Stop</source>
      <translation>Parar</translation>
    </message>
    <message>
      <source>{0:.2f} km · recording {1}</source>
      <translation>{0:.2f} km · gravação {1}</translation>
    </message>
    <message>
      <source>sound {0}</source>
      <translation>som {0}</translation>
    </message>
    <message>
      <source>{0}:{1:04.1f}</source>
      <translation>{0}:{1:04.1f}</translation>
    </message>
    <message>
      <source>Click to go there. Drag with Shift held to mark a part that does not count (X).</source>
      <translation>Clique para ir lá. Arraste com Shift para marcar uma parte que não conta (X).</translation>
    </message>
    <message>
      <source>The whole stage</source>
      <translation>O troço inteiro</translation>
    </message>
    <message>
      <source>Words, notes and road with their ties</source>
      <translation>Palavras, notas e estrada com as suas ligações</translation>
    </message>
    <message>
      <source>on the bend at {0:.2f} km</source>
      <translation>na curva aos {0:.2f} km</translation>
    </message>
    <message>
      <source>on no bend</source>
      <translation>em nenhuma curva</translation>
    </message>
    <message>
      <source>said, and where the car was</source>
      <translation>dito, e onde ia o carro</translation>
    </message>
    <message>
      <source>written</source>
      <translation>escrito</translation>
    </message>
    <message>
      <source>no note</source>
      <translation>sem nota</translation>
    </message>
    <message>
      <source>The line to be called now</source>
      <translation>A linha a ditar agora</translation>
    </message>
    <message>
      <source>changed</source>
      <translation>alterada</translation>
    </message>
    <message>
      <source>Type the book in, a note a line</source>
      <translation>Escreva o caderno, uma nota por linha</translation>
    </message>
    <message>
      <source>Write as you write: L4 long 80, 4 left long 80, R3 &gt;2 dc into. The distance goes on the same line. Ctrl+Enter begins a new page. Text can be pasted from anywhere.</source>
      <translation>Escreva como escreve: E4 longa 80, 4 esquerda longa 80, D3 fecha 2 nc para. A distância vai na mesma linha. Ctrl+Enter começa uma página. Pode colar texto de qualquer lado.</translation>
    </message>
    <message>
      <source>The notes that you type</source>
      <translation>As notas que escreve</translation>
    </message>
    <message>
      <source>Use these notes  Ctrl+S</source>
      <translation>Usar estas notas  Ctrl+S</translation>
    </message>
    <message>
      <source>notes: {0}, pages: {1}</source>
      <translation>notas: {0}, páginas: {1}</translation>
    </message>
    <message>
      <source>, 1 line not understood</source>
      <translation>, 1 linha não entendida</translation>
    </message>
    <message>
      <source>, {0} lines not understood</source>
      <translation>, {0} linhas não entendidas</translation>
    </message>
    <message>
      <source>What becomes of what you typed?</source>
      <translation>O que fazer com o que escreveram?</translation>
    </message>
    <message>
      <source>Keep it for later</source>
      <translation>Guardar para depois</translation>
    </message>
    <message>
      <source>Throw it away</source>
      <translation>Deitar fora</translation>
    </message>
    <message>
      <source>Go on typing</source>
      <translation>Continuar a escrever</translation>
    </message>
    <message>
      <source>Each line as it was read</source>
      <translation>Cada linha como se leu</translation>
    </message>
    <message>
      <source>No picture yet. Space plays from before the call.</source>
      <translation>Ainda sem imagem. Espaço mostra desde antes do aviso.</translation>
    </message>
    <message>
      <source>Play  Space</source>
      <translation>Mostrar  Espaço</translation>
    </message>
    <message>
      <source>Play from before the call, or stop (Space)</source>
      <translation>Mostrar desde antes do aviso, ou parar (Espaço)</translation>
    </message>
    <message>
      <source>One picture back (comma)</source>
      <translation>Uma imagem atrás (vírgula)</translation>
    </message>
    <message>
      <source>One picture on (full stop)</source>
      <translation>Uma imagem à frente (ponto)</translation>
    </message>
    <message>
      <source>Own window  W</source>
      <translation>Janela própria  W</translation>
    </message>
    <message>
      <source>Show the video in a window of its own, or here (W)</source>
      <translation>Mostrar o vídeo em janela própria, ou aqui (W)</translation>
    </message>
    <message>
      <source>as called</source>
      <translation>como ditada</translation>
    </message>
    <message>
      <source>tighter</source>
      <translation>mais fechada</translation>
    </message>
    <message>
      <source>more open</source>
      <translation>mais aberta</translation>
    </message>
    <message>
      <source>other side</source>
      <translation>outro lado</translation>
    </message>
    <message>
      <source>longer</source>
      <translation>mais longa</translation>
    </message>
    <message>
      <source>shorter</source>
      <translation>mais curta</translation>
    </message>
    <message>
      <source>note missing</source>
      <translation>falta nota</translation>
    </message>
    <message>
      <source>hazard here</source>
      <translation>perigo aqui</translation>
    </message>
    <message>
      <source>called at {0}, by your key</source>
      <translation>ditada a {0}, pela vossa tecla</translation>
    </message>
    <message>
      <source>called at {0}, by the timed text</source>
      <translation>ditada a {0}, pelo texto com tempos</translation>
    </message>
    <message>
      <source>called at {0}, by the sound</source>
      <translation>ditada a {0}, pelo som</translation>
    </message>
    <message>
      <source>called about {0}, by where the car was</source>
      <translation>ditada por volta de {0}, por onde o carro estava</translation>
    </message>
    <message>
      <source>called about {0}, between its neighbours</source>
      <translation>ditada por volta de {0}, entre as vizinhas</translation>
    </message>
    <message>
      <source>What shall stand instead</source>
      <translation>O que fica em vez disso</translation>
    </message>
    <message>
      <source>Write it  ⏎</source>
      <translation>Escrever  ⏎</translation>
    </message>
    <message>
      <source>Talk it over  Esc</source>
      <translation>Conversar  Esc</translation>
    </message>
    <message>
      <source>Leave the note as it is, to be talked over (Esc)</source>
      <translation>Deixar a nota como está, para conversar (Esc)</translation>
    </message>
    <message>
      <source>× {0:g}  F</source>
      <translation>× {0:g}  F</translation>
    </message>
    <message>
      <source>Faster, twice as fast, half as fast (F)</source>
      <translation>Mais depressa, ao dobro, a metade (F)</translation>
    </message>
    <message>
      <source>It is called now  C</source>
      <translation>É ditada agora  C</translation>
    </message>
    <message>
      <source>The chosen note is being called at this moment; on to the next (C)</source>
      <translation>A nota escolhida está a ser ditada neste momento; segue para a próxima (C)</translation>
    </message>
    <message>
      <source>Next open  N</source>
      <translation>Próxima em aberto  N</translation>
    </message>
    <message>
      <source>The next note that nobody has answered (N)</source>
      <translation>A próxima nota a que ninguém respondeu (N)</translation>
    </message>
    <message>
      <source>{0} of {1} answered</source>
      <translation>{0} de {1} respondidas</translation>
    </message>
    <message>
      <source>no call is known yet: play it, and press C at each call</source>
      <translation>ainda não se conhece nenhuma: passem o vídeo, e carreguem em C em cada nota ditada</translation>
    </message>
    <message>
      <source>Which note is missing behind this one?</source>
      <translation>Que nota falta a seguir a esta?</translation>
    </message>
    <message>
      <source>What is there?</source>
      <translation>O que há ali?</translation>
    </message>
    <message>
      <source>{0}: what shall stand instead? The same key goes one further, a figure is the grade, E edits.</source>
      <translation>{0}: o que fica em vez disso? A mesma tecla vai um mais além, um algarismo é o grau, E edita.</translation>
    </message>
    <message>
      <source>Play it, then say what you saw.</source>
      <translation>Passem o vídeo, e digam o que viram.</translation>
    </message>
    <message>
      <source>Seen on the video: {0}; marked: {1}</source>
      <translation>Visto no vídeo: {0}; marcada: {1}</translation>
    </message>
    <message>
      <source>Seen on the video: {0}; to talk over</source>
      <translation>Visto no vídeo: {0}; a conversar</translation>
    </message>
    <message>
      <source>Seen on the video: {0}</source>
      <translation>Visto no vídeo: {0}</translation>
    </message>
    <message>
      <source>Write it, or press Esc to talk it over.</source>
      <translation>Escrevam-na, ou carreguem em Esc para conversar.</translation>
    </message>
    <message>
      <source>Every note is answered.</source>
      <translation>Todas as notas têm resposta.</translation>
    </message>
    <message>
      <source>{0} of {1} findings decided</source>
      <translation>{0} de {1} decididos</translation>
    </message>
    <message>
      <source>Nothing was measured on this pass: what stands here is what you saw.</source>
      <translation>Nada foi medido nesta passagem: o que aqui está é o que viram.</translation>
    </message>
    <message>
      <source>there is nothing to listen to</source>
      <translation>não há nada para ouvir</translation>
    </message>
    <message>
      <source>Set a call right</source>
      <translation>Acertar uma chamada</translation>
    </message>
    <message>
      <source>{0} is opened first. Drop the others again when it is there: {1}.</source>
      <translation>{0} abre-se primeiro. Larguem os outros de novo quando estiver aberto: {1}.</translation>
    </message>
    <message>
      <source>Use these notes</source>
      <translation>Usar estas notas</translation>
    </message>
    <message>
      <source>Review again</source>
      <translation>Rever outra vez</translation>
    </message>
    <message>
      <source>then: {0}</source>
      <translation>depois: {0}</translation>
    </message>
    <message>
      <source>“{0}” was not done: another stage or pass was opened meanwhile. Do it again there.</source>
      <translation>“{0}” não foi feito: entretanto abriu-se outro troço ou passagem. Faça-o lá outra vez.</translation>
    </message>
    <message>
      <source>Next</source>
      <translation>A seguir</translation>
    </message>
    <message>
      <source>Another pass</source>
      <translation>Outra passagem</translation>
    </message>
    <message>
      <source>There is no written book: what was said stands for it.</source>
      <translation>Não há caderno escrito: o que foi dito está em vez dele.</translation>
    </message>
    <message>
      <source>copied into the book</source>
      <translation>copiado no caderno</translation>
    </message>
    <message>
      <source>not copied into the book</source>
      <translation>não copiado no caderno</translation>
    </message>
    <message>
      <source>who says so?</source>
      <translation>quem o diz?</translation>
    </message>
    <message>
      <source>the driver says</source>
      <translation>diz o piloto</translation>
    </message>
    <message>
      <source>the co-driver says</source>
      <translation>diz o navegador</translation>
    </message>
    <message>
      <source>we both say</source>
      <translation>dizemos os dois</translation>
    </message>
    <message>
      <source>the driver</source>
      <translation>o piloto</translation>
    </message>
    <message>
      <source>the co-driver</source>
      <translation>o navegador</translation>
    </message>
    <message>
      <source>1 decision has no place now</source>
      <translation>1 decisão ficou sem lugar</translation>
    </message>
    <message>
      <source>{0} decisions have no place now</source>
      <translation>{0} decisões ficaram sem lugar</translation>
    </message>
    <message>
      <source>all findings</source>
      <translation>todos os achados</translation>
    </message>
    <message>
      <source>dangers</source>
      <translation>perigos</translation>
    </message>
    <message>
      <source>dangers and changes</source>
      <translation>perigos e alterações</translation>
    </message>
    <message>
      <source>corners</source>
      <translation>curvas</translation>
    </message>
    <message>
      <source>shape and distance</source>
      <translation>forma e distância</translation>
    </message>
    <message>
      <source>crests and jumps</source>
      <translation>altos e saltos</translation>
    </message>
    <message>
      <source>calls</source>
      <translation>ditados</translation>
    </message>
    <message>
      <source> min</source>
      <translation> min</translation>
    </message>
    <message>
      <source>Minutes to the time control</source>
      <translation>Minutos até ao controlo</translation>
    </message>
    <message>
      <source>Start</source>
      <translation>Começar</translation>
    </message>
    <message>
      <source>Count down to the time control; the findings that still fit are said here</source>
      <translation>Contagem até ao controlo; aqui se diz quantos achados ainda cabem</translation>
    </message>
    <message>
      <source>Add  H</source>
      <translation>Mais  H</translation>
    </message>
    <message>
      <source>Add a hazard that no sensor saw, or a condition for the next pass (H)</source>
      <translation>Acrescentar um perigo que nenhum sensor viu, ou uma condição para a próxima passagem (H)</translation>
    </message>
    <message>
      <source>½  S</source>
      <translation>½  S</translation>
    </message>
    <message>
      <source>Hear it from four seconds before the call (Space)</source>
      <translation>Ouvir desde quatro segundos antes do ditado (Espaço)</translation>
    </message>
    <message>
      <source>Half speed (S)</source>
      <translation>Meia velocidade (S)</translation>
    </message>
    <message>
      <source>time control in</source>
      <translation>controlo em</translation>
    </message>
    <message>
      <source>Something in Mirkle broke ({0}: {1})</source>
      <translation>Algo no Mirkle avariou ({0}: {1})</translation>
    </message>
    <message>
      <source>stopped</source>
      <translation>parado</translation>
    </message>
    <message>
      <source>the packed file is damaged</source>
      <translation>o ficheiro comprimido está estragado</translation>
    </message>
    <message>
      <source>unpacked it is over {0:.0f} MB</source>
      <translation>descomprimido passa de {0:.0f} MB</translation>
    </message>
    <message>
      <source>it can't be read ({0})</source>
      <translation>não se lê ({0})</translation>
    </message>
    <message>
      <source>this is a folder without a table in it</source>
      <translation>é uma pasta sem nenhuma tabela</translation>
    </message>
    <message>
      <source>it is over {0:.0f} MB</source>
      <translation>passa de {0:.0f} MB</translation>
    </message>
    <message>
      <source>it does not hold what was set by hand</source>
      <translation>não contém o que foi posto à mão</translation>
    </message>
    <message>
      <source>the time</source>
      <translation>o tempo</translation>
    </message>
    <message>
      <source>latitude and longitude, or speed and yaw rate</source>
      <translation>latitude e longitude, ou velocidade e velocidade de guinada</translation>
    </message>
    <message>
      <source>the crew's file as TOML</source>
      <translation>o ficheiro da equipa em TOML</translation>
    </message>
    <message>
      <source>it is not valid TOML ({0})</source>
      <translation>não é TOML válido ({0})</translation>
    </message>
    <message>
      <source>{0} is “{1}”</source>
      <translation>{0} é “{1}”</translation>
    </message>
    <message>
      <source>write {0}</source>
      <translation>escreva {0}</translation>
    </message>
    <message>
      <source>“{0}” is not known here</source>
      <translation>“{0}” não é conhecido aqui</translation>
    </message>
    <message>
      <source>{0!r} is no list of words</source>
      <translation>{0!r} não é uma lista de palavras</translation>
    </message>
    <message>
      <source>there is no language “{0}”</source>
      <translation>não há língua “{0}”</translation>
    </message>
    <message>
      <source>write {0}, or the name of a language file beside this one</source>
      <translation>escreva {0}, ou o nome de um ficheiro de língua ao lado deste</translation>
    </message>
    <message>
      <source>“{0}” holds no table</source>
      <translation>“{0}” não contém uma tabela</translation>
    </message>
    <message>
      <source>there is no time column</source>
      <translation>não há coluna de tempo</translation>
    </message>
    <message>
      <source>What its columns hold is as you said.</source>
      <translation>O que as colunas têm é como disseram.</translation>
    </message>
    <message>
      <source>The file ends in the middle of a line; that line was left out.</source>
      <translation>O ficheiro acaba a meio de uma linha; essa linha ficou de fora.</translation>
    </message>
    <message>
      <source>it holds only {0} lines of data</source>
      <translation>tem só {0} linhas de dados</translation>
    </message>
    <message>
      <source>Columns not used: {0}.</source>
      <translation>Colunas não usadas: {0}.</translation>
    </message>
    <message>
      <source>one of its lines never ends</source>
      <translation>uma das suas linhas nunca acaba</translation>
    </message>
    <message>
      <source>{0} stands there twice</source>
      <translation>{0} está lá duas vezes</translation>
    </message>
    <message>
      <source>{0} is not used: {1} holds the same.</source>
      <translation>{0} não é usado: {1} tem o mesmo.</translation>
    </message>
    <message>
      <source>this line has not as many cells as the first line has names ({0})</source>
      <translation>esta linha não tem tantas células como a primeira tem nomes ({0})</translation>
    </message>
    <message>
      <source>{0} holds “{1}”, which is not a time like those before it</source>
      <translation>{0} contém “{1}”, que não é uma hora como as anteriores</translation>
    </message>
    <message>
      <source>{0} holds “{1}”, which is not a number</source>
      <translation>{0} contém “{1}”, que não é um número</translation>
    </message>
    <message>
      <source>{0} holds “{1}”, which is no latitude with a longitude</source>
      <translation>{0} contém “{1}”, que não é uma latitude com uma longitude</translation>
    </message>
    <message>
      <source>{0} lines at the end are no data and were left out.</source>
      <translation>{0} linhas no fim não são dados e foram deixadas de fora.</translation>
    </message>
    <message>
      <source>Times are whole seconds, {0} samples in each: they were spread evenly over it.</source>
      <translation>Os tempos são segundos inteiros, com {0} amostras em cada um: foram espalhadas por igual.</translation>
    </message>
    <message>
      <source>{0} has no unit</source>
      <translation>{0} não tem unidade</translation>
    </message>
    <message>
      <source>write it behind the name, such as {0} ({1})</source>
      <translation>escrevam-na depois do nome, como {0} ({1})</translation>
    </message>
    <message>
      <source>{0} is not used: it has no unit, and its values don't tell it.</source>
      <translation>{0} não é usado: não tem unidade, e os valores não a dizem.</translation>
    </message>
    <message>
      <source>{0} has no unit; by its values it is {1}.</source>
      <translation>{0} não tem unidade; pelos valores é {1}.</translation>
    </message>
    <message>
      <source>the document is damaged or locked</source>
      <translation>o documento está danificado ou protegido</translation>
    </message>
    <message>
      <source>severity</source>
      <translation>gravidade</translation>
    </message>
    <message>
      <source>kind</source>
      <translation>tipo</translation>
    </message>
    <message>
      <source>page</source>
      <translation>página</translation>
    </message>
    <message>
      <source>line</source>
      <translation>linha</translation>
    </message>
    <message>
      <source>note</source>
      <translation>nota</translation>
    </message>
    <message>
      <source>from_km</source>
      <translation>de_km</translation>
    </message>
    <message>
      <source>to_km</source>
      <translation>a_km</translation>
    </message>
    <message>
      <source>confidence</source>
      <translation>certeza</translation>
    </message>
    <message>
      <source>seconds</source>
      <translation>segundos</translation>
    </message>
    <message>
      <source>why</source>
      <translation>porquê</translation>
    </message>
    <message>
      <source>proposal</source>
      <translation>proposta</translation>
    </message>
    <message>
      <source>decision</source>
      <translation>decisão</translation>
    </message>
    <message>
      <source>by</source>
      <translation>por</translation>
    </message>
    <message>
      <source>unmeasured</source>
      <translation>não medido</translation>
    </message>
    <message>
      <source>{0:.1f} km; {1} findings, {2} decided, {3} changes.</source>
      <translation>{0:.1f} km; {1} achados, {2} decididos, {3} alterações.</translation>
    </message>
    <message>
      <source>Changes to copy</source>
      <translation>Alterações a copiar</translation>
    </message>
    <message>
      <source>{0:.2f} km, {1}: {2}</source>
      <translation>{0:.2f} km, {1}: {2}</translation>
    </message>
    <message>
      <source>Added by hand</source>
      <translation>Acrescentado à mão</translation>
    </message>
    <message>
      <source>Seen on the video</source>
      <translation>Visto no vídeo</translation>
    </message>
    <message>
      <source>Findings</source>
      <translation>Achados</translation>
    </message>
    <message>
      <source>Decided: {0}</source>
      <translation>Decidido: {0}</translation>
    </message>
    <message>
      <source>Proposed</source>
      <translation>Proposta</translation>
    </message>
    <message>
      <source>{0}, {1:.0%} sure, {2:.2f} km.</source>
      <translation>{0}, {1:.0%} de certeza, {2:.2f} km.</translation>
    </message>
    <message>
      <source>Speed above, how tight it was below</source>
      <translation>Em cima a velocidade, em baixo quão fechada era</translation>
    </message>
    <message>
      <source>to {0:.0f} km/h</source>
      <translation>até {0:.0f} km/h</translation>
    </message>
    <message>
      <source>the recording is damaged</source>
      <translation>a gravação está danificada</translation>
    </message>
    <message>
      <source>{0} track points carry no time and were left out.</source>
      <translation>{0} pontos do trajeto não têm hora e ficaram de fora.</translation>
    </message>
    <message>
      <source>{0} track points carry no place and were left out.</source>
      <translation>{0} pontos do percurso não têm lugar e foram deixados de fora.</translation>
    </message>
    <message>
      <source>this is {0} without positions</source>
      <translation>isto é {0} sem posições</translation>
    </message>
    <message>
      <source>this is {0} without times</source>
      <translation>isto é {0} sem tempos</translation>
    </message>
    <message>
      <source>this is {0} with only {1} fixes</source>
      <translation>isto é {0} com apenas {1} posições</translation>
    </message>
    <message>
      <source>it can't be read as GPX</source>
      <translation>não se lê como GPX</translation>
    </message>
    <message>
      <source>The file breaks off at line {0}; what stands before was read.</source>
      <translation>O ficheiro corta-se na linha {0}; o que está antes foi lido.</translation>
    </message>
    <message>
      <source>its track points carry no time</source>
      <translation>os pontos do trajeto não têm hora</translation>
    </message>
    <message>
      <source>it holds only {0} track points</source>
      <translation>tem só {0} pontos de trajeto</translation>
    </message>
    <message>
      <source>it carries a document type, which a GPX file does not have</source>
      <translation>traz um tipo de documento, que um ficheiro GPX não tem</translation>
    </message>
    <message>
      <source>it holds {0:,} track points, more than any run has</source>
      <translation>contém {0:,} pontos de percurso, mais do que qualquer passagem tem</translation>
    </message>
    <message>
      <source>a track point's latitude, longitude or height is not a number</source>
      <translation>a latitude, longitude ou altitude de um ponto não é um número</translation>
    </message>
    <message>
      <source>it does not hold call times from a sound</source>
      <translation>não tem tempos de notas tirados de um som</translation>
    </message>
    <message>
      <source>this is an MDF4 file, and what reads those is not installed</source>
      <translation>é um ficheiro MDF4, e o que os lê não está instalado</translation>
    </message>
    <message>
      <source>the measurement file can't be read ({0})</source>
      <translation>não se lê o ficheiro de medição ({0})</translation>
    </message>
    <message>
      <source>there is neither a position nor a speed with a yaw rate among its signals</source>
      <translation>entre os sinais não há posição, nem velocidade com velocidade de guinada</translation>
    </message>
    <message>
      <source>Signals not used: {0}.</source>
      <translation>Sinais não usados: {0}.</translation>
    </message>
    <message>
      <source>the sound is no longer there</source>
      <translation>o som já não está lá</translation>
    </message>
    <message>
      <source>the sound is not the file that was added</source>
      <translation>o som não é o ficheiro que foi acrescentado</translation>
    </message>
    <message>
      <source>this is a receiver's log with only {0} fixes in it</source>
      <translation>isto é o registo de um recetor com apenas {0} posições</translation>
    </message>
    <message>
      <source>{0} broken sentences were skipped.</source>
      <translation>{0} frases estragadas foram saltadas.</translation>
    </message>
    <message>
      <source>1 broken sentence was skipped.</source>
      <translation>1 frase estragada foi saltada.</translation>
    </message>
    <message>
      <source>{0} sentences carry no checksum: a harmed one can't be told.</source>
      <translation>{0} frases não têm soma de verificação: não se sabe se alguma está estragada.</translation>
    </message>
    <message>
      <source>the notes as text</source>
      <translation>as notas em texto</translation>
    </message>
    <message>
      <source>there is nothing written in it</source>
      <translation>não há nada escrito nele</translation>
    </message>
    <message>
      <source>there is a control character that no text has</source>
      <translation>há um carácter de controlo que nenhum texto tem</translation>
    </message>
    <message>
      <source>there is no table with positions in this archive</source>
      <translation>não há tabela com posições neste arquivo</translation>
    </message>
    <message>
      <source>Tables not used: {0}.</source>
      <translation>Tabelas não usadas: {0}.</translation>
    </message>
    <message>
      <source>there is a file of this name already</source>
      <translation>já há um ficheiro com este nome</translation>
    </message>
    <message>
      <source>the project can't be written there ({0})</source>
      <translation>o projeto não se pode escrever lá ({0})</translation>
    </message>
    <message>
      <source>there is no such file</source>
      <translation>não há tal ficheiro</translation>
    </message>
    <message>
      <source>it is damaged or not a Mirkle stage</source>
      <translation>está estragado ou não é um troço do Mirkle</translation>
    </message>
    <message>
      <source>the copy can't be written ({0})</source>
      <translation>não se pode escrever a cópia ({0})</translation>
    </message>
    <message>
      <source>a file that a pass needs is missing in it</source>
      <translation>falta nele um ficheiro de que uma passagem precisa</translation>
    </message>
    <message>
      <source>a part of it is damaged</source>
      <translation>uma parte dele está danificada</translation>
    </message>
    <message>
      <source>{0} in it is damaged</source>
      <translation>{0} está lá estragado</translation>
    </message>
    <message>
      <source>it is open in another window, so nothing can be changed here</source>
      <translation>está aberto noutra janela, por isso aqui nada se pode mudar</translation>
    </message>
    <message>
      <source>it can't be written ({0}); nothing was changed</source>
      <translation>não se pode escrever ({0}); nada foi mudado</translation>
    </message>
    <message>
      <source>another program moved or overwrote this stage while it was open; nothing was changed</source>
      <translation>outro programa moveu ou substituiu este troço enquanto estava aberto; nada foi alterado</translation>
    </message>
    <message>
      <source>it holds {0} decisions; no more than {1} can be opened</source>
      <translation>contém {0} decisões; não se podem abrir mais de {1}</translation>
    </message>
    <message>
      <source>this is not a Mirkle stage</source>
      <translation>isto não é um troço do Mirkle</translation>
    </message>
    <message>
      <source>it was written by a newer Mirkle (format {0}; this one knows {1})</source>
      <translation>foi escrito por um Mirkle mais novo (formato {0}; este conhece {1})</translation>
    </message>
    <message>
      <source>it is damaged</source>
      <translation>está estragado</translation>
    </message>
    <message>
      <source>it is of an older Mirkle and can't be brought up to date there ({0})</source>
      <translation>é de um Mirkle mais antigo e não pode ser atualizado ali ({0})</translation>
    </message>
    <message>
      <source>the run: CSV with time and position, GPX, NMEA, FIT, TCX, KML, GeoJSON or MDF4</source>
      <translation>a passagem: CSV com tempo e posição, GPX, NMEA, FIT, TCX, KML, GeoJSON ou MDF4</translation>
    </message>
    <message>
      <source>a PNG picture</source>
      <translation>uma imagem PNG</translation>
    </message>
    <message>
      <source>a JPEG picture</source>
      <translation>uma imagem JPEG</translation>
    </message>
    <message>
      <source>a GIF picture</source>
      <translation>uma imagem GIF</translation>
    </message>
    <message>
      <source>a TIFF picture</source>
      <translation>uma imagem TIFF</translation>
    </message>
    <message>
      <source>a PDF</source>
      <translation>um PDF</translation>
    </message>
    <message>
      <source>a sound or video file</source>
      <translation>um ficheiro de som ou vídeo</translation>
    </message>
    <message>
      <source>a sound file</source>
      <translation>um ficheiro de som</translation>
    </message>
    <message>
      <source>a database</source>
      <translation>uma base de dados</translation>
    </message>
    <message>
      <source>this is a pipe or a device, no file</source>
      <translation>isto é um canal ou um dispositivo, não um ficheiro</translation>
    </message>
    <message>
      <source>choose the file with {0}</source>
      <translation>escolha o ficheiro com {0}</translation>
    </message>
    <message>
      <source>this is a folder</source>
      <translation>isto é uma pasta</translation>
    </message>
    <message>
      <source>the file is empty</source>
      <translation>o ficheiro está vazio</translation>
    </message>
    <message>
      <source>it is {0:.0f} MB, and {1} is under {2:.0f} MB</source>
      <translation>tem {0:.0f} MB, e {1} tem menos de {2:.0f} MB</translation>
    </message>
    <message>
      <source>a telephone's picture</source>
      <translation>uma fotografia de telemóvel</translation>
    </message>
    <message>
      <source>a WebP picture</source>
      <translation>uma imagem WebP</translation>
    </message>
    <message>
      <source>this is {0}, and pictures of notes are not read</source>
      <translation>é {0}, e imagens de notas não se leem</translation>
    </message>
    <message>
      <source>this is {0}, not text</source>
      <translation>isto é {0}, não texto</translation>
    </message>
    <message>
      <source>this is binary data, not text</source>
      <translation>são dados binários, não texto</translation>
    </message>
    <message>
      <source>the text is damaged</source>
      <translation>o texto está estragado</translation>
    </message>
    <message>
      <source>this is a folder, a pipe or a device, no file</source>
      <translation>isto é uma pasta, um tubo ou um dispositivo, não um ficheiro</translation>
    </message>
    <message>
      <source>this is no sound and no video</source>
      <translation>isto não é som nem vídeo</translation>
    </message>
    <message>
      <source>there is no sound in it</source>
      <translation>não tem som</translation>
    </message>
    <message>
      <source>its sound can't be decoded ({0})</source>
      <translation>o som não se descodifica ({0})</translation>
    </message>
    <message>
      <source>what was said, as WebVTT, SRT or lines of [m:ss] words</source>
      <translation>o que foi dito, em WebVTT, SRT ou linhas de palavras com [m:ss]</translation>
    </message>
    <message>
      <source>call times from a sound say when and not what</source>
      <translation>os tempos tirados de um som dizem quando e não o quê</translation>
    </message>
    <message>
      <source>Its captions roll: each line stands there twice, and was read once.</source>
      <translation>As legendas rolam: cada linha está lá duas vezes e foi lida uma.</translation>
    </message>
    <message>
      <source>there are no times in it</source>
      <translation>não tem tempos</translation>
    </message>
    <message>
      <source>its times go back again and again</source>
      <translation>os tempos andam para trás uma e outra vez</translation>
    </message>
    <message>
      <source>there are no words with times in it</source>
      <translation>não tem palavras com tempos</translation>
    </message>
    <message>
      <source>it carries a document type, which no captions have</source>
      <translation>traz um tipo de documento, que nenhumas legendas têm</translation>
    </message>
    <message>
      <source>it can't be read as captions</source>
      <translation>não se pode ler como legendas</translation>
    </message>
    <message>
      <source>it is not valid JSON</source>
      <translation>não é JSON válido</translation>
    </message>
    <message>
      <source>a watch's activity</source>
      <translation>uma atividade de relógio</translation>
    </message>
    <message>
      <source>a track of places</source>
      <translation>um trajeto de lugares</translation>
    </message>
    <message>
      <source>a map of shapes</source>
      <translation>um mapa de formas</translation>
    </message>
    <message>
      <source>there is no track in this archive</source>
      <translation>não há trajeto neste arquivo</translation>
    </message>
    <message>
      <source>it carries a document type, which no track has</source>
      <translation>traz um tipo de documento, que nenhum trajeto tem</translation>
    </message>
    <message>
      <source>it can't be read as XML</source>
      <translation>não se pode ler como XML</translation>
    </message>
    <message>
      <source>there is something there that is no plain file</source>
      <translation>há ali algo que não é um ficheiro simples</translation>
    </message>
    <message>
      <source>it can't be written ({0})</source>
      <translation>não se pode escrever ({0})</translation>
    </message>
    <message>
      <source>this is what is written already</source>
      <translation>é o que já está escrito</translation>
    </message>
    <message>
      <source>this makes the note faster</source>
      <translation>isto torna a nota mais rápida</translation>
    </message>
    <message>
      <source>there are no words for it</source>
      <translation>não há palavras para isso</translation>
    </message>
    <message>
      <source>it can't be removed ({0})</source>
      <translation>não se pode remover ({0})</translation>
    </message>
    <message>
      <source>edition {0}, {1}</source>
      <translation>edição {0}, {1}</translation>
    </message>
    <message>
      <source>as written</source>
      <translation>como está escrito</translation>
    </message>
    <message>
      <source>after 1 change</source>
      <translation>depois de 1 alteração</translation>
    </message>
    <message>
      <source>after {0} changes</source>
      <translation>depois de {0} alterações</translation>
    </message>
    <message>
      <source>as it stands now</source>
      <translation>como está agora</translation>
    </message>
    <message>
      <source>Nothing differs</source>
      <translation>Nada difere</translation>
    </message>
    <message>
      <source>1 place differs</source>
      <translation>1 sítio difere</translation>
    </message>
    <message>
      <source>{0} places differ</source>
      <translation>{0} sítios diferem</translation>
    </message>
    <message>
      <source>the notes are still missing</source>
      <translation>ainda faltam as notas</translation>
    </message>
    <message>
      <source>It was not said.</source>
      <translation>Não foi dita.</translation>
    </message>
    <message>
      <source>It was said otherwise: “{0}”.</source>
      <translation>Foi dita de outra forma: “{0}”.</translation>
    </message>
    <message>
      <source>It was said late: {0} words of later notes came before it.</source>
      <translation>Foi dita tarde: antes dela vieram {0} palavras de notas seguintes.</translation>
    </message>
    <message>
      <source>{0} notes in one breath, {1:.0f} s: too many words for the seconds that there were.</source>
      <translation>{0} notas de um só fôlego, {1:.0f} s: palavras a mais para os segundos que havia.</translation>
    </message>
    <message>
      <source>one pass alone says nothing of a change</source>
      <translation>uma só passagem nada diz de uma mudança</translation>
    </message>
    <message>
      <source>this note was not changed</source>
      <translation>esta nota não foi mudada</translation>
    </message>
    <message>
      <source>this change is of more than one note</source>
      <translation>esta mudança é de mais de uma nota</translation>
    </message>
    <message>
      <source>Reviewing {0}</source>
      <translation>A rever {0}</translation>
    </message>
    <message>
      <source>of another stage: begin a new one</source>
      <translation>de outro troço: começar um novo</translation>
    </message>
    <message>
      <source>leave it out</source>
      <translation>deixar de fora</translation>
    </message>
    <message>
      <source>This file is in the stage already.</source>
      <translation>Este ficheiro já está no troço.</translation>
    </message>
    <message>
      <source>the crew's file from now on</source>
      <translation>o ficheiro da equipa a partir de agora</translation>
    </message>
    <message>
      <source>a new pass</source>
      <translation>uma nova passagem</translation>
    </message>
    <message>
      <source>of pass {0}</source>
      <translation>da passagem {0}</translation>
    </message>
    <message>
      <source>Nothing tells whether this recording is of the same road.</source>
      <translation>Nada diz se esta gravação é da mesma estrada.</translation>
    </message>
    <message>
      <source>This recording is of another road: it turns otherwise. The stage is {0:.1f} km long, the recording {1:.1f} km.</source>
      <translation>Esta gravação é de outra estrada: tem outras curvas. O troço tem {0:.1f} km, a gravação {1:.1f} km.</translation>
    </message>
    <message>
      <source>This recording is of another road: it starts at the same place and goes elsewhere. The stage is {0:.1f} km long, the recording {1:.1f} km.</source>
      <translation>Esta gravação é de outra estrada: começa no mesmo sítio e segue para outro lado. O troço tem {0:.1f} km, a gravação {1:.1f} km.</translation>
    </message>
    <message>
      <source>This recording is of another road: it starts {0:.1f} km from this stage's start. The stage is {1:.1f} km long, the recording {2:.1f} km.</source>
      <translation>Esta gravação é de outra estrada: começa a {0:.1f} km da partida deste troço. O troço tem {1:.1f} km, a gravação {2:.1f} km.</translation>
    </message>
    <message>
      <source>the book that was read on the new pass</source>
      <translation>o caderno lido na nova passagem</translation>
    </message>
    <message>
      <source>of the new pass</source>
      <translation>da nova passagem</translation>
    </message>
    <message>
      <source>a new pass that nothing recorded but the camera</source>
      <translation>uma nova passagem que só a câmara gravou</translation>
    </message>
    <message>
      <source>of pass {0}, instead of what it has</source>
      <translation>da passagem {0}, em vez do que ela tem</translation>
    </message>
    <message>
      <source>These words don't fit the book: {0} of its {1} notes were said.</source>
      <translation>Estas palavras não são deste caderno: foram ditas {0} das suas {1} notas.</translation>
    </message>
    <message>
      <source>the book with what is marked here ({0})</source>
      <translation>o caderno com o que está aqui marcado ({0})</translation>
    </message>
    <message>
      <source>put there by hand</source>
      <translation>posta à mão</translation>
    </message>
    <message>
      <source>no bend, by hand</source>
      <translation>sem curva, à mão</translation>
    </message>
    <message>
      <source>its road was not measured</source>
      <translation>a sua estrada não foi medida</translation>
    </message>
    <message>
      <source>no bend answers it</source>
      <translation>nenhuma curva lhe responde</translation>
    </message>
    <message>
      <source>sure</source>
      <translation>certo</translation>
    </message>
    <message>
      <source>{0:.0%} sure</source>
      <translation>{0:.0%} certo</translation>
    </message>
    <message>
      <source>Listening: {0} min</source>
      <translation>A ouvir: {0} min</translation>
    </message>
    <message>
      <source>it is too short to hold a stage</source>
      <translation>é curto demais para um troço</translation>
    </message>
    <message>
      <source>Tying the sound to the recording</source>
      <translation>A ligar o som à gravação</translation>
    </message>
    <message>
      <source>its calls can't be tied to this recording beyond doubt: perhaps it is the sound of another pass</source>
      <translation>as notas dele não se ligam a esta gravação sem dúvida: talvez seja o som de outra passagem</translation>
    </message>
    <message>
      <source>Placing the notes</source>
      <translation>A pôr as notas no lugar</translation>
    </message>
    <message>
      <source>the noise in it hides the voice: nothing that was found here could be believed</source>
      <translation>o ruído esconde a voz: nada do que se encontrasse seria de fiar</translation>
    </message>
    <message>
      <source>this pass has no sound</source>
      <translation>esta passagem não tem som</translation>
    </message>
    <message>
      <source>perhaps late, by {0:.1f} s</source>
      <translation>talvez tarde, por {0:.1f} s</translation>
    </message>
    <message>
      <source>somebody speaks: no note explains it</source>
      <translation>alguém fala: nenhuma nota o explica</translation>
    </message>
    <message>
      <source>sound and road differ by {0:.1f} s</source>
      <translation>som e estrada diferem {0:.1f} s</translation>
    </message>
    <message>
      <source>said again</source>
      <translation>dita outra vez</translation>
    </message>
    <message>
      <source>notes, a run, or timed words</source>
      <translation>notas, uma passagem, ou palavras com tempos</translation>
    </message>
    <message>
      <source>this is not {0}</source>
      <translation>isto não é {0}</translation>
    </message>
    <message>
      <source>this is an archive without a recording or notes in it</source>
      <translation>isto é um arquivo sem gravação nem notas</translation>
    </message>
    <message>
      <source>this is XML of a kind that holds no run and no words</source>
      <translation>isto é XML de um tipo sem passagem nem palavras</translation>
    </message>
    <message>
      <source>The camera wrote it into {0}.</source>
      <translation>A câmara gravou-o em {0}.</translation>
    </message>
    <message>
      <source>The sound or video of the run, {0:.0f} MB; it stays where it is, and is played from there.</source>
      <translation>O som ou o vídeo da passagem, {0:.0f} MB; fica onde está, e é tocado a partir dali.</translation>
    </message>
    <message>
      <source>The crew's own file: {0}.</source>
      <translation>O ficheiro da própria equipa: {0}.</translation>
    </message>
    <message>
      <source>Call times from a sound: {0} of {1} notes were heard.</source>
      <translation>Tempos tirados de um som: ouvidas {0} de {1} notas.</translation>
    </message>
    <message>
      <source>no “go” heard</source>
      <translation>nenhum “go” ouvido</translation>
    </message>
    <message>
      <source>“go” at {0}:{1:02d}</source>
      <translation>“go” aos {0}:{1:02d}</translation>
    </message>
    <message>
      <source>What was said: {0} calls, {1} corners, {2}; words repaired by sound: {3}.</source>
      <translation>O que foi dito: {0} chamadas, {1} curvas, {2}; palavras corrigidas pelo som: {3}.</translation>
    </message>
    <message>
      <source>A run of {0:.0f} minutes with {1}.</source>
      <translation>Uma passagem de {0:.0f} minutos com {1}.</translation>
    </message>
    <message>
      <source>its lines don't read as notes: {0} corners in {1} lines</source>
      <translation>as linhas não se lêem como notas: {0} curvas em {1} linhas</translation>
    </message>
    <message>
      <source>{0} notes, {1} corners, pages: {2}, {3}.</source>
      <translation>{0} notas, {1} curvas, páginas: {2}, {3}.</translation>
    </message>
    <message>
      <source>Not understood: {0}.</source>
      <translation>Não entendido: {0}.</translation>
    </message>
    <message>
      <source>position</source>
      <translation>posição</translation>
    </message>
    <message>
      <source>accuracy</source>
      <translation>exatidão</translation>
    </message>
    <message>
      <source>accelerations</source>
      <translation>acelerações</translation>
    </message>
    <message>
      <source>steering</source>
      <translation>direção</translation>
    </message>
    <message>
      <source>{0} once a second</source>
      <translation>{0} uma vez por segundo</translation>
    </message>
    <message>
      <source>{0} times a second</source>
      <translation>{0} vezes por segundo</translation>
    </message>
    <message>
      <source>this is not the road of {0}</source>
      <translation>esta não é a estrada de {0}</translation>
    </message>
    <message>
      <source>Reading the notes</source>
      <translation>A ler as notas</translation>
    </message>
    <message>
      <source>Reading the recording</source>
      <translation>A ler a gravação</translation>
    </message>
    <message>
      <source>the recording is still missing</source>
      <translation>ainda falta a gravação</translation>
    </message>
    <message>
      <source>this is neither notes nor timed words</source>
      <translation>não são notas nem palavras com tempos</translation>
    </message>
    <message>
      <source>Reading {0}</source>
      <translation>A ler {0}</translation>
    </message>
    <message>
      <source>direction</source>
      <translation>lado</translation>
    </message>
    <message>
      <source>grade</source>
      <translation>grau</translation>
    </message>
    <message>
      <source>half a grade</source>
      <translation>meio grau</translation>
    </message>
    <message>
      <source>length</source>
      <translation>comprimento</translation>
    </message>
    <message>
      <source>change of radius</source>
      <translation>mudança de raio</translation>
    </message>
    <message>
      <source>alert</source>
      <translation>aviso</translation>
    </message>
    <message>
      <source>crest, jump, bump, dip</source>
      <translation>lomba, salto, ressalto, depressão</translation>
    </message>
    <message>
      <source>settles nothing</source>
      <translation>não decide nada</translation>
    </message>
    <message>
      <source>line on the road</source>
      <translation>linha na estrada</translation>
    </message>
    <message>
      <source>thing beside the road</source>
      <translation>objeto ao lado da estrada</translation>
    </message>
    <message>
      <source>side</source>
      <translation>lado da estrada</translation>
    </message>
    <message>
      <source>surface</source>
      <translation>piso</translation>
    </message>
    <message>
      <source>from here</source>
      <translation>daqui em diante</translation>
    </message>
    <message>
      <source>link</source>
      <translation>ligação</translation>
    </message>
    <message>
      <source>start, finish</source>
      <translation>partida, chegada</translation>
    </message>
    <message>
      <source>number</source>
      <translation>número</translation>
    </message>
    <message>
      <source>talk, no note</source>
      <translation>conversa, não é nota</translation>
    </message>
    <message>
      <source>incident</source>
      <translation>incidente</translation>
    </message>
    <message>
      <source>What was said</source>
      <translation>O que se disse</translation>
    </message>
    <message>
      <source>there is nothing to call: every note is struck out</source>
      <translation>não há nada a ditar: todas as notas estão riscadas</translation>
    </message>
    <message>
      <source>1 change is not rehearsed yet</source>
      <translation>1 alteração ainda não está ensaiada</translation>
    </message>
    <message>
      <source>{0} changes are not rehearsed yet</source>
      <translation>{0} alterações ainda não estão ensaiadas</translation>
    </message>
    <message>
      <source>{0} min left</source>
      <translation>faltam {0} min</translation>
    </message>
    <message>
      <source>under a minute left</source>
      <translation>falta menos de um minuto</translation>
    </message>
    <message>
      <source>{0}; all is decided</source>
      <translation>{0}; tudo decidido</translation>
    </message>
    <message>
      <source>{0}: time for all {1}</source>
      <translation>{0}: tempo para todos os {1}</translation>
    </message>
    <message>
      <source>{0}: time for {1} of {2}</source>
      <translation>{0}: tempo para {1} de {2}</translation>
    </message>
    <message>
      <source>{0} changes: too many to rehearse</source>
      <translation>{0} alterações: demasiadas para ensaiar</translation>
    </message>
    <message>
      <source>a stage needs a name</source>
      <translation>um troço precisa de nome</translation>
    </message>
    <message>
      <source>Keeping the review</source>
      <translation>A guardar a revisão</translation>
    </message>
    <message>
      <source>there is no finding on this note</source>
      <translation>não há nada apontado nesta nota</translation>
    </message>
    <message>
      <source>this pass has no recording</source>
      <translation>esta passagem não tem gravação</translation>
    </message>
    <message>
      <source>“{0}” is no word that is known yet</source>
      <translation>“{0}” ainda não é palavra conhecida</translation>
    </message>
    <message>
      <source>the corner has no grade</source>
      <translation>a curva não tem grau</translation>
    </message>
    <message>
      <source>the grade has no direction</source>
      <translation>o grau não tem direção</translation>
    </message>
    <message>
      <source>give notes, or calls with what was said</source>
      <translation>dêem notas, ou o que foi dito</translation>
    </message>
    <message>
      <source>write the findings as a table instead</source>
      <translation>escrevam os achados em tabela</translation>
    </message>
    <message>
      <source>write .json, .csv, .gpx or .html</source>
      <translation>escrevam .json, .csv, .gpx ou .html</translation>
    </message>
    <message>
      <source>give it the file’s content</source>
      <translation>dê-lhe o conteúdo do ficheiro</translation>
    </message>
    <message>
      <source>give --notes, or --calls with what was said</source>
      <translation>dê --notes, ou --calls com o que foi dito</translation>
    </message>
    <message>
      <source>start it in a desktop session, or work without the window: “mirkle review --help”</source>
      <translation>abram-no numa sessão de trabalho, ou trabalhem sem janela: “mirkle review --help”</translation>
    </message>
    <message>
      <source>run “make demo” once, which installs what Qt needs</source>
      <translation>corra “make demo” uma vez, que instala o que o Qt precisa</translation>
    </message>
    <message>
      <source>choose the recording of the stage</source>
      <translation>escolha a gravação do troço</translation>
    </message>
    <message>
      <source>undo that change first</source>
      <translation>desfaça primeiro essa alteração</translation>
    </message>
    <message>
      <source>export the run alone, and check the unit of the time column</source>
      <translation>exporte só a passagem, e verifique a unidade da coluna do tempo</translation>
    </message>
    <message>
      <source>check the latitude and longitude columns and the unit of time</source>
      <translation>verifique as colunas de latitude e longitude e a unidade do tempo</translation>
    </message>
    <message>
      <source>export the run again with one clock that only goes forward</source>
      <translation>exporte de novo a passagem com um só relógio que ande sempre para a frente</translation>
    </message>
    <message>
      <source>record a position every second or more often</source>
      <translation>grave uma posição por segundo ou mais</translation>
    </message>
    <message>
      <source>export it with time, lat_deg and lon_deg, or with time, speed_mps and yaw_rate_dps</source>
      <translation>exporte-a com time, lat_deg e lon_deg, ou com time, speed_mps e yaw_rate_dps</translation>
    </message>
    <message>
      <source>check the unit of lat and lon, which is degrees unless the column says _rad</source>
      <translation>veja a unidade de lat e lon, que é graus se a coluna não disser _rad</translation>
    </message>
    <message>
      <source>choose the recording of the whole stage</source>
      <translation>escolha a gravação do troço inteiro</translation>
    </message>
    <message>
      <source>check the unit of its times</source>
      <translation>verifique a unidade dos tempos</translation>
    </message>
    <message>
      <source>give the word as it stands in the notes</source>
      <translation>dê a palavra como está nas notas</translation>
    </message>
    <message>
      <source>choose one of its words</source>
      <translation>escolha uma das suas palavras</translation>
    </message>
    <message>
      <source>add it at the top</source>
      <translation>acrescente-o no topo</translation>
    </message>
    <message>
      <source>write its terms below it</source>
      <translation>escreva os termos por baixo</translation>
    </message>
    <message>
      <source>write joiners = ["and"], teens = { 30 = 13 }, rules = [["ph", "f"]], c = ["feature crest"]</source>
      <translation>escreva joiners = ["and"], teens = { 30 = 13 }, rules = [["ph", "f"]], c = ["feature crest"]</translation>
    </message>
    <message>
      <source>give it said = [...]</source>
      <translation>dê-lhe said = [...]</translation>
    </message>
    <message>
      <source>name numbers by their figures</source>
      <translation>chame aos números os seus algarismos</translation>
    </message>
    <message>
      <source>use left and right as the names</source>
      <translation>use left e right como nomes</translation>
    </message>
    <message>
      <source>write ["one", "two"]</source>
      <translation>escreva ["uma", "duas"]</translation>
    </message>
    <message>
      <source>write one note a line, such as “left 4 long 80” or “4 left long 80”</source>
      <translation>escreva uma nota por linha, como “esquerda 4 longa 80” ou “4 esquerda longa 80”</translation>
    </message>
    <message>
      <source>choose the text of the calls in the car</source>
      <translation>escolha o texto do que se ditou no carro</translation>
    </message>
    <message>
      <source>write the note as it shall stand, or keep the old one</source>
      <translation>escreva a nota como deve ficar, ou mantenha a antiga</translation>
    </message>
    <message>
      <source>write it as you write the others</source>
      <translation>escreva-a como escreve as outras</translation>
    </message>
    <message>
      <source>write a corner, a feature or a distance</source>
      <translation>escreva uma curva, um relevo ou uma distância</translation>
    </message>
    <message>
      <source>write its grade beside it</source>
      <translation>escreva o grau ao lado</translation>
    </message>
    <message>
      <source>write left or right beside it</source>
      <translation>escreva esquerda ou direita ao lado</translation>
    </message>
    <message>
      <source>this takes a book and the pass's sound or video; timed text that knows its times as well is not listened for</source>
      <translation>isto pede um caderno e o som ou o vídeo da passagem; um texto que já sabe os tempos não se procura no som</translation>
    </message>
    <message>
      <source>nothing of yours was changed</source>
      <translation>nada do que é seu foi mudado</translation>
    </message>
    <message>
      <source>copy it again</source>
      <translation>copie-o de novo</translation>
    </message>
    <message>
      <source>check who may read it</source>
      <translation>veja quem o pode ler</translation>
    </message>
    <message>
      <source>choose the files in it</source>
      <translation>escolham os ficheiros que lá estão</translation>
    </message>
    <message>
      <source>export the one stage alone</source>
      <translation>exporte só esse troço</translation>
    </message>
    <message>
      <source>set it again</source>
      <translation>ponha-o de novo</translation>
    </message>
    <message>
      <source>mend that line</source>
      <translation>corrija essa linha</translation>
    </message>
    <message>
      <source>use language, order, sense, leave or [words.KIND]</source>
      <translation>use language, order, sense, leave ou [words.GÉNERO]</translation>
    </message>
    <message>
      <source>write [words.feature] and below it crest = ["brow"]</source>
      <translation>escreva [words.feature] e por baixo crest = ["brow"]</translation>
    </message>
    <message>
      <source>name the columns in the first line, such as time_s, lat_deg, lon_deg</source>
      <translation>dê nome às colunas na primeira linha, como time_s, lat_deg, lon_deg</translation>
    </message>
    <message>
      <source>export the whole run</source>
      <translation>exporte a passagem inteira</translation>
    </message>
    <message>
      <source>export it again, a line for each sample</source>
      <translation>exporte-o outra vez, uma linha por amostra</translation>
    </message>
    <message>
      <source>keep one column for each quantity</source>
      <translation>deixe uma coluna por grandeza</translation>
    </message>
    <message>
      <source>add lat_deg and lon_deg, or speed_mps and yaw_rate_dps</source>
      <translation>acrescente lat_deg e lon_deg, ou speed_mps e yaw_rate_dps</translation>
    </message>
    <message>
      <source>give each line one cell for each column, empty where nothing was measured</source>
      <translation>dê a cada linha uma célula por coluna, vazia onde nada foi medido</translation>
    </message>
    <message>
      <source>write it as 10:15:30.25, with or without the date</source>
      <translation>escreva-a como 10:15:30.25, com ou sem data</translation>
    </message>
    <message>
      <source>write a number there, or leave the cell empty</source>
      <translation>escreva lá um número, ou deixe a célula vazia</translation>
    </message>
    <message>
      <source>write both in degrees with a comma between, or give each a column</source>
      <translation>escreva ambas em graus com uma vírgula no meio, ou dê uma coluna a cada uma</translation>
    </message>
    <message>
      <source>save its text as plain text</source>
      <translation>guardem o texto como texto simples</translation>
    </message>
    <message>
      <source>choose the recording of the run</source>
      <translation>escolham a gravação da passagem</translation>
    </message>
    <message>
      <source>export the track again as GPX 1.1</source>
      <translation>exporte de novo o trajeto como GPX 1.1</translation>
    </message>
    <message>
      <source>export the recorded track, with times</source>
      <translation>exporte o trajeto gravado, com horas</translation>
    </message>
    <message>
      <source>export the track again from the logger</source>
      <translation>exporte de novo o trajeto do gravador</translation>
    </message>
    <message>
      <source>export the run alone</source>
      <translation>exporte só a passagem</translation>
    </message>
    <message>
      <source>mend or remove that point</source>
      <translation>corrija ou tire esse ponto</translation>
    </message>
    <message>
      <source>have Mirkle listen again</source>
      <translation>deixem o Mirkle ouvir de novo</translation>
    </message>
    <message>
      <source>run “make mdf” once, or export the run as CSV</source>
      <translation>corra “make mdf” uma vez, ou exporte a passagem como CSV</translation>
    </message>
    <message>
      <source>export it again</source>
      <translation>exporte-o de novo</translation>
    </message>
    <message>
      <source>name them lat, lon, speed, yaw_rate, with their units</source>
      <translation>chame-lhes lat, lon, speed, yaw_rate, com as unidades</translation>
    </message>
    <message>
      <source>drop it on the window again</source>
      <translation>largue-o de novo na janela</translation>
    </message>
    <message>
      <source>drop the right one again</source>
      <translation>largue de novo o certo</translation>
    </message>
    <message>
      <source>export the whole run, with RMC or GGA sentences</source>
      <translation>exporte a passagem inteira, com frases RMC ou GGA</translation>
    </message>
    <message>
      <source>choose the file with the notes</source>
      <translation>escolha o ficheiro com as notas</translation>
    </message>
    <message>
      <source>save the notes as plain text</source>
      <translation>grave as notas como texto simples</translation>
    </message>
    <message>
      <source>record the location as well, or choose the run's own file</source>
      <translation>gravem também a localização, ou escolham o ficheiro da passagem</translation>
    </message>
    <message>
      <source>choose another name</source>
      <translation>escolha outro nome</translation>
    </message>
    <message>
      <source>choose another folder</source>
      <translation>escolha outra pasta</translation>
    </message>
    <message>
      <source>check its name and folder</source>
      <translation>veja o nome e a pasta</translation>
    </message>
    <message>
      <source>open a copy of it</source>
      <translation>abra uma cópia</translation>
    </message>
    <message>
      <source>make room or choose another folder</source>
      <translation>arranjem espaço ou escolham outra pasta</translation>
    </message>
    <message>
      <source>add that file again</source>
      <translation>acrescente de novo esse ficheiro</translation>
    </message>
    <message>
      <source>open a copy of it, or add the files to a new stage</source>
      <translation>abra uma cópia, ou junte os ficheiros a um novo troço</translation>
    </message>
    <message>
      <source>close it there and open it again</source>
      <translation>feche-o lá e abra-o de novo</translation>
    </message>
    <message>
      <source>make room or free the folder</source>
      <translation>arranje espaço ou liberte a pasta</translation>
    </message>
    <message>
      <source>open it again and look at what was decided last</source>
      <translation>abra-o outra vez e veja o que foi decidido por último</translation>
    </message>
    <message>
      <source>open an older copy of it</source>
      <translation>abra uma cópia mais antiga</translation>
    </message>
    <message>
      <source>choose a .mirkle file</source>
      <translation>escolha um ficheiro .mirkle</translation>
    </message>
    <message>
      <source>open it with the newer Mirkle</source>
      <translation>abra-o com o Mirkle mais novo</translation>
    </message>
    <message>
      <source>copy it to a folder with room</source>
      <translation>copie-o para uma pasta com espaço</translation>
    </message>
    <message>
      <source>type the notes in: “Type the notes in…” in Gather</source>
      <translation>escrevam as notas: “Escrever as notas…” em Reunir</translation>
    </message>
    <message>
      <source>save it as UTF-8</source>
      <translation>grave-o como UTF-8</translation>
    </message>
    <message>
      <source>choose the video or the sound of the run</source>
      <translation>escolham o vídeo ou o som da passagem</translation>
    </message>
    <message>
      <source>play it elsewhere and save it anew</source>
      <translation>abram-no noutro lado e gravem-no de novo</translation>
    </message>
    <message>
      <source>give the notes that were read as well</source>
      <translation>deem também as notas que foram lidas</translation>
    </message>
    <message>
      <source>give WebVTT, SRT, or lines that begin with [m:ss]</source>
      <translation>dê WebVTT, SRT, ou linhas que comecem por [m:ss]</translation>
    </message>
    <message>
      <source>export it again in order</source>
      <translation>exporte-o de novo por ordem</translation>
    </message>
    <message>
      <source>export it again as WebVTT or SRT</source>
      <translation>exportem de novo em WebVTT ou SRT</translation>
    </message>
    <message>
      <source>give "word" and "start" for each</source>
      <translation>dê "word" e "start" a cada uma</translation>
    </message>
    <message>
      <source>choose the track itself</source>
      <translation>escolham o próprio trajeto</translation>
    </message>
    <message>
      <source>export the track again</source>
      <translation>exportem de novo o trajeto</translation>
    </message>
    <message>
      <source>edit it, or keep the note</source>
      <translation>altere-o, ou mantenha a nota</translation>
    </message>
    <message>
      <source>let both of you say yes to it</source>
      <translation>digam os dois que sim</translation>
    </message>
    <message>
      <source>say what it is, such as: stones inside</source>
      <translation>diga o que é, por exemplo: pedras dentro</translation>
    </message>
    <message>
      <source>check who may write there</source>
      <translation>veja quem lá pode escrever</translation>
    </message>
    <message>
      <source>add the notes as text</source>
      <translation>juntem as notas em texto</translation>
    </message>
    <message>
      <source>give --pass twice or more, in the order driven</source>
      <translation>dê --pass duas vezes ou mais, pela ordem em que se correram</translation>
    </message>
    <message>
      <source>correct it, or keep it</source>
      <translation>corrijam-na, ou mantenham-na</translation>
    </message>
    <message>
      <source>mark it on its notes in Compare</source>
      <translation>marquem-na nas suas notas em Comparar</translation>
    </message>
    <message>
      <source>choose the sound of the whole run</source>
      <translation>escolham o som da passagem inteira</translation>
    </message>
    <message>
      <source>give what was said as timed text</source>
      <translation>deem o que foi dito como texto com tempos</translation>
    </message>
    <message>
      <source>drop its sound or video on the window first</source>
      <translation>larguem primeiro o som ou o vídeo na janela</translation>
    </message>
    <message>
      <source>say in the window what they hold</source>
      <translation>digam na janela o que têm</translation>
    </message>
    <message>
      <source>choose the file with the notes, or the run in one of the forms that the guide names</source>
      <translation>escolham o ficheiro das notas, ou a passagem numa das formas que o guia diz</translation>
    </message>
    <message>
      <source>give passes of one stage, or --any-road if you are sure that it is one</source>
      <translation>dê passagens do mesmo troço, ou --any-road se tem a certeza de que é o mesmo</translation>
    </message>
    <message>
      <source>add the notes as text, or what was said as timed text</source>
      <translation>junte as notas em texto, ou o que foi dito em texto com tempos</translation>
    </message>
    <message>
      <source>add the run as CSV or GPX</source>
      <translation>junte a passagem em CSV ou GPX</translation>
    </message>
    <message>
      <source>give a text</source>
      <translation>dê um texto</translation>
    </message>
    <message>
      <source>undo one of the changes</source>
      <translation>desfaçam uma das alterações</translation>
    </message>
    <message>
      <source>write one</source>
      <translation>escrevam um</translation>
    </message>
    <message>
      <source>choose a note with a mark beside it</source>
      <translation>escolha uma nota com um sinal ao lado</translation>
    </message>
    <message>
      <source>take the new notes or the card</source>
      <translation>levem as notas novas ou a folha</translation>
    </message>
    <message>
      <source>take the findings as a table instead</source>
      <translation>leve antes a lista em tabela</translation>
    </message>
  </context>
</TS>
