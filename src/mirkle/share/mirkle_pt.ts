<?xml version='1.0' encoding='utf-8'?>
<!DOCTYPE TS>
<TS version="2.1" language="pt" sourcelanguage="en">
  <context>
    <name>Mirkle</name>
    <message>
      <source>Of {0} other passes, {1} agree with it.</source>
      <translation>De {0} outras passagens, {1} concordam.</translation>
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
      <source>The other pass agrees.</source>
      <translation>A outra passagem concorda.</translation>
    </message>
    <message>
      <source>The other pass does not show it.</source>
      <translation>A outra passagem não o mostra.</translation>
    </message>
    <message>
      <source>, where your {0}s run from {1:.0f} to {2:.0f} m</source>
      <translation>, onde as vossas {0} vão de {1:.0f} a {2:.0f} m</translation>
    </message>
    <message>
      <source>Called {0}; it turned like your {1}: {2:.0f} m at its tightest{3}; {4:.0f} km/h at the slowest.</source>
      <translation>Ditado {0}; virou como a vossa {1}: {2:.0f} m no mais fechado{3}; {4:.0f} km/h no mais lento.</translation>
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
      <source>The car slid there, {0:.0f}° more than it usually does, so its line says little.</source>
      <translation>O carro derrapou ali, {0:.0f}° mais que o costume, e a sua linha diz pouco.</translation>
    </message>
    <message>
      <source>Called {0}; the road went {1}: {2:.0f}° round {3:.0f} m at {4:.0f} km/h.</source>
      <translation>Ditado {0}; a estrada foi para a {1}: {2:.0f}° com {3:.0f} m a {4:.0f} km/h.</translation>
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
      <source>Braked up to {0:.1f} g into a {1}, down to {2:.0f} km/h, where your {1}s carry about {3:.0f}: something here surprised the driver.</source>
      <translation>Travou até {0:.1f} g para uma {1}, até {2:.0f} km/h, onde as vossas {1} levam uns {3:.0f}: algo aqui surpreendeu o piloto.</translation>
    </message>
    <message>
      <source>{0:.0f} km/h used {1:.0%} of the grip that you use elsewhere on this part; at most {2:.1f} s lay in it.</source>
      <translation>{0:.0f} km/h usaram {1:.0%} da aderência que usam no resto desta parte; havia ali no máximo {2:.1f} s.</translation>
    </message>
    <message>
      <source>The note says not to cut; the line was {0:.0f} m at its tightest, {1:.1f} of a grade wider than the corner is written: look on the video whether the car cut.</source>
      <translation>A nota diz para não cortar; a linha foi de {0:.0f} m no mais fechado, {1:.1f} de nota mais larga do que está escrito: vejam no vídeo se o carro cortou.</translation>
    </message>
    <message>
      <source>Called {0:.0f}; it was {1:.0f} m from the end of {2} to {3}, where your {0:.0f}s run from {4:.0f} to {5:.0f} m.</source>
      <translation>Ditado {0:.0f}; foram {1:.0f} m do fim de {2} até {3}, onde os vossos {0:.0f} vão de {4:.0f} a {5:.0f} m.</translation>
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
      <source>The call before has {0} words; “{1}” could go.</source>
      <translation>O ditado anterior tem {0} palavras; “{1}” podia sair.</translation>
    </message>
    <message>
      <source>Said {0:.1f} s before the corner, {1:.0f} m at that speed; you like {2:.1f} s.</source>
      <translation>Dito {0:.1f} s antes da curva, {1:.0f} m àquela velocidade; gostam de {2:.1f} s.</translation>
    </message>
    <message>
      <source>no {0} was felt between {1:.2f} and {2:.2f} km</source>
      <translation>não se sentiu nada assim ({0}) entre {1:.2f} e {2:.2f} km</translation>
    </message>
    <message>
      <source>Called jump maybe: it flew for {0:.1f} s at {1:.0f} km/h.</source>
      <translation>Ditado talvez salto: voou {0:.1f} s a {1:.0f} km/h.</translation>
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
      <source>; by the load felt it would fly above {0:.0f} km/h</source>
      <translation>; pelo peso sentido voaria acima de {0:.0f} km/h</translation>
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
      <source>No note calls {0} here, met at {1:.0f} km/h{2}.</source>
      <translation>Nenhuma nota dita {0} aqui, a {1:.0f} km/h{2}.</translation>
    </message>
    <message>
      <source>No note calls this jump: {0:.1f} s in the air at {1:.0f} km/h, landing {2:.0f} m on.</source>
      <translation>Nenhuma nota dita este salto: {0:.1f} s no ar a {1:.0f} km/h, a cair {2:.0f} m à frente.</translation>
    </message>
    <message>
      <source>Written {0}, but what was said sounds like {1}, at {2} of the recorded words. One of the two is wrong: listen, and decide which.</source>
      <translation>Escrito {0}, mas o que se disse soa a {1}, aos {2} das palavras gravadas. Uma das duas está errada: ouçam, e decidam qual.</translation>
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
      <source>{0} kilometre</source>
      <translation>{0} quilómetro</translation>
    </message>
    <message>
      <source>Add it</source>
      <translation>Acrescentar</translation>
    </message>
    <message>
      <source>Done</source>
      <translation>Pronto</translation>
    </message>
    <message>
      <source>next pass only</source>
      <translation>só na próxima passagem</translation>
    </message>
    <message>
      <source>hazard</source>
      <translation>perigo</translation>
    </message>
    <message>
      <source>Changes by page and line</source>
      <translation>Alterações por página e linha</translation>
    </message>
    <message>
      <source>Change card as PDF…</source>
      <translation>Cartão de alterações em PDF…</translation>
    </message>
    <message>
      <source>Book as PDF…</source>
      <translation>Caderno em PDF…</translation>
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
      <source>Paper</source>
      <translation>Papel</translation>
    </message>
    <message>
      <source>for sunlight  ▾</source>
      <translation>para o sol  ▾</translation>
    </message>
    <message>
      <source>for the night  ▾</source>
      <translation>para a noite  ▾</translation>
    </message>
    <message>
      <source>Ink</source>
      <translation>Tinta</translation>
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
      <source>Nothing marked yet</source>
      <translation>Ainda nada marcado</translation>
    </message>
    <message>
      <source>on</source>
      <translation>em</translation>
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
      <source>Written: {0}</source>
      <translation>Escrito: {0}</translation>
    </message>
    <message>
      <source>struck out</source>
      <translation>riscado</translation>
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
      <source>Before you trust a number</source>
      <translation>Antes de confiar num número</translation>
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
      <source>Back to work</source>
      <translation>De volta ao trabalho</translation>
    </message>
    <message>
      <source>your grades; the numbers are metres of radius</source>
      <translation>as vossas notas; os números são metros de raio</translation>
    </message>
    <message>
      <source>the load felt; at the lower line the car weighs nothing</source>
      <translation>o peso sentido; na linha de baixo o carro não pesa nada</translation>
    </message>
    <message>
      <source>from above</source>
      <translation>visto de cima</translation>
    </message>
    <message>
      <source>the distance, called and met</source>
      <translation>a distância, ditada e encontrada</translation>
    </message>
    <message>
      <source>from the call to the corner, in seconds</source>
      <translation>do ditado à curva, em segundos</translation>
    </message>
    <message>
      <source>met {0:.0f} ± {1:.0f} m</source>
      <translation>foi {0:.0f} ± {1:.0f} m</translation>
    </message>
    <message>
      <source>met</source>
      <translation>foi</translation>
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
      <source>you like</source>
      <translation>gostam</translation>
    </message>
    <message>
      <source>here</source>
      <translation>aqui</translation>
    </message>
    <message>
      <source>called</source>
      <translation>ditado</translation>
    </message>
    <message>
      <source>Your grades, with the one called and where this corner lies</source>
      <translation>As vossas notas, com a ditada e o lugar desta curva</translation>
    </message>
    <message>
      <source>Speed, braking and how tight it was, through this place</source>
      <translation>Velocidade, travagem e quão fechada foi, neste lugar</translation>
    </message>
    <message>
      <source>The place from above</source>
      <translation>O lugar visto de cima</translation>
    </message>
    <message>
      <source>page {0}, line {1}</source>
      <translation>página {0}, linha {1}</translation>
    </message>
    <message>
      <source>{0} at {1:.2f} km: {2}{3}{4}</source>
      <translation>{0} aos {1:.2f} km: {2}{3}{4}</translation>
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
      <source>Back</source>
      <translation>Voltar</translation>
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
      <source>taken away</source>
      <translation>retirado</translation>
    </message>
    <message>
      <source>line {0}     {1}   →   {2}</source>
      <translation>linha {0}     {1}   →   {2}</translation>
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
      <source>The first edition</source>
      <translation>A primeira edição</translation>
    </message>
    <message>
      <source>The second edition</source>
      <translation>A segunda edição</translation>
    </message>
    <message>
      <source>nothing</source>
      <translation>nada</translation>
    </message>
    <message>
      <source>said {0:.1f} s before</source>
      <translation>dito {0:.1f} s antes</translation>
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
      <source>Who says so</source>
      <translation>Quem o diz</translation>
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
      <source>page {0}, line {1} · {2:.2f} km</source>
      <translation>página {0}, linha {1} · {2:.2f} km</translation>
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
      <source>{0} · {1:.0%} sure · {2}{3}</source>
      <translation>{0} · {1:.0%} certo · {2}{3}</translation>
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
      <source>Reads: {0}</source>
      <translation>Lê-se: {0}</translation>
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
      <source>found by when the calls came before their corners</source>
      <translation>encontrado pela antecedência dos ditados</translation>
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
      <source>Type the notes in…</source>
      <translation>Escrever as notas…</translation>
    </message>
    <message>
      <source>Stages that were open last</source>
      <translation>Troços abertos por último</translation>
    </message>
    <message>
      <source>What went wrong</source>
      <translation>O que correu mal</translation>
    </message>
    <message>
      <source>Stop</source>
      <translation>Parar</translation>
    </message>
    <message>
      <source>Your hand</source>
      <translation>A vossa escrita</translation>
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
      <source>Drop your notes and the recording of the run here</source>
      <translation>Largue aqui as notas e a gravação da passagem</translation>
    </message>
    <message>
      <source>The notes as text, a note a line, as you write them. The run as CSV (time and position at least), GPX, NMEA or MDF4. What was said in the car as timed text, and its sound, if you have them. Mirkle says what each file is and what it read from it; all stay as they are.</source>
      <translation>As notas em texto, uma por linha, como as escrevem. A passagem em CSV (pelo menos tempo e posição), GPX, NMEA ou MDF4. O que se disse no carro em texto com tempos, e o som, se os tiverem. O Mirkle diz o que é cada ficheiro e o que leu dele; todos ficam como estão.</translation>
    </message>
    <message>
      <source>{0}: {1:.1f} km from start to finish</source>
      <translation>{0}: {1:.1f} km da partida à chegada</translation>
    </message>
    <message>
      <source>{0}. Drop another pass or what was said here to add it; with other notes, a new stage begins.</source>
      <translation>{0}. Largue aqui outra passagem ou o que se disse para a juntar; com outras notas começa um troço novo.</translation>
    </message>
    <message>
      <source>The clocks</source>
      <translation>Os relógios</translation>
    </message>
    <message>
      <source>The words' clock reads {0:+.1f} s against the recording's, give or take {1:.1f} s; {2}.</source>
      <translation>O relógio das palavras marca {0:+.1f} s em relação ao da gravação, mais ou menos {1:.1f} s; {2}.</translation>
    </message>
    <message>
      <source>Your hand: {0}</source>
      <translation>A vossa escrita: {0}</translation>
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
      <source>The finish can't come before the start: set one of them right</source>
      <translation>A chegada não pode ser antes da partida: acerte uma delas</translation>
    </message>
    <message>
      <source>, {0:.0%} sure</source>
      <translation>, {0:.0%} certo</translation>
    </message>
    <message>
      <source>The notes</source>
      <translation>As notas</translation>
    </message>
    <message>
      <source>{0} notes, {1} corners, {2}; grades 1 to {3}.</source>
      <translation>{0} notas, {1} curvas, {2}; notas de 1 a {3}.</translation>
    </message>
    <message>
      <source>On the road</source>
      <translation>Na estrada</translation>
    </message>
    <message>
      <source>{0} of {1} corner notes have their bend; your grades scatter by {2:.2f} of a grade, and your odometer reads {3:+.1f} %.</source>
      <translation>{0} de {1} notas de curva têm a sua curva; as vossas notas variam {2:.2f} de nota, e o vosso conta-quilómetros marca {3:+.1f} %.</translation>
    </message>
    <message>
      <source>Recorded</source>
      <translation>Gravado</translation>
    </message>
    <message>
      <source>found: {0}{1}</source>
      <translation>encontrado: {0}{1}</translation>
    </message>
    <message>
      <source>find it</source>
      <translation>encontrar</translation>
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
      <source>“{0}” is no time: write minutes and seconds, such as 10:57.2</source>
      <translation>“{0}” não é um tempo: escreva minutos e segundos, como 10:57.2</translation>
    </message>
    <message>
      <source>Mind</source>
      <translation>Atenção</translation>
    </message>
    <message>
      <source>Your grades go by {0} best: in order {1:.2f} of 1 ({2}).</source>
      <translation>As vossas notas seguem melhor {0}: em ordem {1:.2f} de 1 ({2}).</translation>
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
      <source>speed</source>
      <translation>a velocidade</translation>
    </message>
    <message>
      <source>the angle turned</source>
      <translation>o ângulo rodado</translation>
    </message>
    <message>
      <source>Notes, the unsure ones first</source>
      <translation>Notas, as incertas primeiro</translation>
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
      <source>Let Mirkle find the clock again</source>
      <translation>Deixar o Mirkle encontrar de novo</translation>
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
      <source>The words' clock is ahead by</source>
      <translation>As palavras vão adiantadas</translation>
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
      <source>For another co-driver</source>
      <translation>Para outro navegador</translation>
    </message>
    <message>
      <source>The notes in the other hand</source>
      <translation>As notas na outra escrita</translation>
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
      <source>; and {0} more</source>
      <translation>; e mais {0}</translation>
    </message>
    <message>
      <source>1 to {0}</source>
      <translation>1 a {0}</translation>
    </message>
    <message>
      <source>page {0}, line {1}: {2}</source>
      <translation>página {0}, linha {1}: {2}</translation>
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
      <source>Take these</source>
      <translation>Ficar com estas</translation>
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
      <source>From {0:.0f} to {1:.0f} m above the sea.</source>
      <translation>De {0:.0f} a {1:.0f} m acima do mar.</translation>
    </message>
    <message>
      <source>The stage from above and its heights</source>
      <translation>O troço visto de cima e as suas alturas</translation>
    </message>
    <message>
      <source>No heights were recorded.</source>
      <translation>Não se gravaram alturas.</translation>
    </message>
    <message>
      <source>heights, {0:.0f} to {1:.0f} m</source>
      <translation>alturas, {0:.0f} a {1:.0f} m</translation>
    </message>
    <message>
      <source>start</source>
      <translation>partida</translation>
    </message>
    <message>
      <source>The video</source>
      <translation>O vídeo</translation>
    </message>
    <message>
      <source>{0}: changes to the notes</source>
      <translation>{0}: alterações às notas</translation>
    </message>
    <message>
      <source>Copy them into the book by page and line, then read them aloud once.</source>
      <translation>Copiem-nas para o caderno por página e linha, e leiam-nas uma vez em voz alta.</translation>
    </message>
    <message>
      <source>p {0}  line {1}</source>
      <translation>p {0}  linha {1}</translation>
    </message>
    <message>
      <source>{0}, page {1}</source>
      <translation>{0}, página {1}</translation>
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
      <source>strike it out</source>
      <translation>riscar</translation>
    </message>
    <message>
      <source>1 change, the biggest risk first.</source>
      <translation>1 alteração, o maior risco primeiro.</translation>
    </message>
    <message>
      <source>{0} changes, the biggest risk first.</source>
      <translation>{0} alterações, o maior risco primeiro.</translation>
    </message>
    <message>
      <source>every word was read</source>
      <translation>leram-se todas as palavras</translation>
    </message>
    <message>
      <source>“{0}”  read as  {1}</source>
      <translation>“{0}”  lido como  {1}</translation>
    </message>
    <message>
      <source>“{0}”  could not be read</source>
      <translation>“{0}”  não se leu</translation>
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
      <source>It means that  ⏎</source>
      <translation>É isso  ⏎</translation>
    </message>
    <message>
      <source>Leave it  L</source>
      <translation>Deixar  L</translation>
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
      <source>1 word to settle</source>
      <translation>1 palavra a resolver</translation>
    </message>
    <message>
      <source>{0} words to settle</source>
      <translation>{0} palavras a resolver</translation>
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
      <source>The straightened road</source>
      <translation>A estrada endireitada</translation>
    </message>
    <message>
      <source>flew {0:.1f} s at {1:.0f} km/h</source>
      <translation>voou {0:.1f} s a {1:.0f} km/h</translation>
    </message>
    <message>
      <source>{0}: no corner</source>
      <translation>{0}: sem curva</translation>
    </message>
    <message>
      <source>called {0}, was {1}</source>
      <translation>ditado {0}, foi {1}</translation>
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
      <source>Each line as it was read</source>
      <translation>Cada linha como se leu</translation>
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
      <source>Which pass</source>
      <translation>Que passagem</translation>
    </message>
    <message>
      <source>{0} of {1} decided</source>
      <translation>{0} de {1} decididos</translation>
    </message>
    <message>
      <source>Reading {0}</source>
      <translation>A ler {0}</translation>
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
      <source>Next</source>
      <translation>A seguir</translation>
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
      <source>Hear it from four seconds before the call (Space)</source>
      <translation>Ouvir desde quatro segundos antes do ditado (Espaço)</translation>
    </message>
    <message>
      <source>Half speed (S)</source>
      <translation>Meia velocidade (S)</translation>
    </message>
    <message>
      <source>Half speed</source>
      <translation>Meia velocidade</translation>
    </message>
    <message>
      <source>Order of findings</source>
      <translation>Ordem dos achados</translation>
    </message>
    <message>
      <source>Which findings</source>
      <translation>Que achados</translation>
    </message>
    <message>
      <source>Hear it  Space</source>
      <translation>Ouvir  Espaço</translation>
    </message>
    <message>
      <source>½  S</source>
      <translation>½  S</translation>
    </message>
    <message>
      <source>time control in</source>
      <translation>controlo em</translation>
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
      <source>danger</source>
      <translation>perigo</translation>
    </message>
    <message>
      <source>worth changing</source>
      <translation>vale a pena mudar</translation>
    </message>
    <message>
      <source>check it on the video</source>
      <translation>ver no vídeo</translation>
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
      <source>to talk over</source>
      <translation>a falar</translation>
    </message>
    <message>
      <source>to look at on the video</source>
      <translation>a ver no vídeo</translation>
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
      <source>both</source>
      <translation>os dois</translation>
    </message>
    <message>
      <source>next finding, finding before</source>
      <translation>achado seguinte, achado anterior</translation>
    </message>
    <message>
      <source>next note, note before</source>
      <translation>nota seguinte, nota anterior</translation>
    </message>
    <message>
      <source>mark it: write the change into the book</source>
      <translation>marcar: escrever a alteração no caderno</translation>
    </message>
    <message>
      <source>keep the note as it is written</source>
      <translation>manter a nota como está</translation>
    </message>
    <message>
      <source>talk it over later</source>
      <translation>falar disso depois</translation>
    </message>
    <message>
      <source>look at it on the video first</source>
      <translation>ver primeiro no vídeo</translation>
    </message>
    <message>
      <source>who says so;  a remark on it</source>
      <translation>quem o diz;  um reparo</translation>
    </message>
    <message>
      <source>edit what to write, on any note;  Esc leaves the field</source>
      <translation>editar o que escrever, em qualquer nota;  Esc sai do campo</translation>
    </message>
    <message>
      <source>add a hazard that no sensor saw, or a condition for the next pass</source>
      <translation>um perigo que nenhum sensor viu, ou uma condição da próxima passagem</translation>
    </message>
    <message>
      <source>hear it from before the call, stop;  half speed</source>
      <translation>ouvir desde antes do ditado, parar;  meia velocidade</translation>
    </message>
    <message>
      <source>parts that don't count; or drag over the stage with Shift held</source>
      <translation>partes que não contam; ou arrastar no troço com Shift</translation>
    </message>
    <message>
      <source>undo, redo</source>
      <translation>desfazer, refazer</translation>
    </message>
    <message>
      <source>Line up: the next unsure note</source>
      <translation>Alinhar: a nota incerta seguinte</translation>
    </message>
    <message>
      <source>Line up: put the note on the bend before, on the next bend</source>
      <translation>Alinhar: pôr a nota na curva anterior, na seguinte</translation>
    </message>
    <message>
      <source>Line up: no bend answers it; let go of the pin</source>
      <translation>Alinhar: nenhuma curva lhe responde; largar</translation>
    </message>
    <message>
      <source>Gather, Line up, Compare, Book</source>
      <translation>Reunir, Alinhar, Comparar, Caderno</translation>
    </message>
    <message>
      <source>open files</source>
      <translation>abrir ficheiros</translation>
    </message>
    <message>
      <source>light or night</source>
      <translation>dia ou noite</translation>
    </message>
    <message>
      <source>this page</source>
      <translation>esta página</translation>
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
      <source>most risk first</source>
      <translation>maior risco primeiro</translation>
    </message>
    <message>
      <source>in stage order</source>
      <translation>pela ordem do troço</translation>
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
      <source>pace</source>
      <translation>andamento</translation>
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
      <source>The change card as PDF…</source>
      <translation>O cartão de alterações em PDF…</translation>
    </message>
    <message>
      <source>PDF (*.pdf)</source>
      <translation>PDF (*.pdf)</translation>
    </message>
    <message>
      <source>The new book as PDF…</source>
      <translation>O caderno novo em PDF…</translation>
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
      <source>Gather</source>
      <translation>Reunir</translation>
    </message>
    <message>
      <source>Line up</source>
      <translation>Alinhar</translation>
    </message>
    <message>
      <source>Compare</source>
      <translation>Comparar</translation>
    </message>
    <message>
      <source>Book</source>
      <translation>Caderno</translation>
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
      <source>to</source>
      <translation>até</translation>
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
      <source>finish</source>
      <translation>chegada</translation>
    </message>
    <message>
      <source>←  bend before</source>
      <translation>←  anterior</translation>
    </message>
    <message>
      <source>next bend  →</source>
      <translation>seguinte  →</translation>
    </message>
    <message>
      <source>no bend</source>
      <translation>nenhuma</translation>
    </message>
    <message>
      <source>let go</source>
      <translation>largar</translation>
    </message>
    <message>
      <source>Put the note on the bend before (Left)</source>
      <translation>Pôr a nota na curva anterior (Esquerda)</translation>
    </message>
    <message>
      <source>Put the note on the next bend (Right)</source>
      <translation>Pôr a nota na curva seguinte (Direita)</translation>
    </message>
    <message>
      <source>No bend answers this note (0)</source>
      <translation>Nenhuma curva responde a esta nota (0)</translation>
    </message>
    <message>
      <source>Take the pin out: the note finds its own place (Backspace)</source>
      <translation>Soltar: a nota encontra o seu lugar (Backspace)</translation>
    </message>
    <message>
      <source>What was said</source>
      <translation>O que se disse</translation>
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
      <source>sure</source>
      <translation>certo</translation>
    </message>
    <message>
      <source>{0:.0%} sure</source>
      <translation>{0:.0%} certo</translation>
    </message>
    <message>
      <source>no bend answers it</source>
      <translation>nenhuma curva lhe responde</translation>
    </message>
    <message>
      <source>no bend, by hand</source>
      <translation>sem curva, à mão</translation>
    </message>
    <message>
      <source>put there by hand</source>
      <translation>posta à mão</translation>
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
      <source>condition</source>
      <translation>condição</translation>
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
  </context>
</TS>
